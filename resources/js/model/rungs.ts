const KEY = 'lotrik.rungs';

/** How a contract's ladder was left: the tick in the middle, and the ticks of a rung. */
interface Rungs {
    centre: number | null;
    zoom: number;
}

const whole = (value: unknown, least: number): value is number => Number.isInteger(value) && (value as number) >= least;

function read(): Record<string, Rungs> {
    try {
        const known: Record<string, Partial<Rungs> | null> = JSON.parse(localStorage.getItem(KEY) ?? '{}');
        return Object.fromEntries(
            Object.entries(known ?? {}).map(([code, rungs]) => [
                code,
                { centre: whole(rungs?.centre, 1) ? rungs.centre : null, zoom: whole(rungs?.zoom, 1) ? rungs.zoom : 1 },
            ]),
        );
    } catch {
        return {};
    }
}

const kept = read();

export const rungsOf = (code: string): Rungs => kept[code] ?? { centre: null, zoom: 1 };

export function keepRungs(code: string, part: Partial<Rungs>): void {
    kept[code] = { ...rungsOf(code), ...part };
    localStorage.setItem(KEY, JSON.stringify(kept));
}
