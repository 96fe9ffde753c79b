/** One trade of the market, price in ticks, time in ms since 1970 UTC. */
export interface Print {
    at: number;
    price: number;
    size: number;
    aggressor: 'buy' | 'sell';
}

/** As far back as the picture beside the ladder can look. */
const KEPT_MS = 10 * 60 * 1000;

const kept = new Map<string, Print[]>();

/** Prints come far oftener than frames: they are kept beside the store, so that none of them makes a component draw. */
export function keepPrint(code: string, print: Print): void {
    const prints = kept.get(code) ?? [];
    prints.push(print);
    // Cut now and then instead of at each print.
    const first = prints[0];
    if (prints.length % 512 === 0 && first && first.at < print.at - KEPT_MS) {
        kept.set(
            code,
            prints.filter((old) => old.at >= print.at - KEPT_MS),
        );
    } else {
        kept.set(code, prints);
    }
}

export const printsOf = (code: string): readonly Print[] => kept.get(code) ?? [];
