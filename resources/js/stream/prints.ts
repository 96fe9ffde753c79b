import { call } from '@/api/client';

/** One trade of the market, price in ticks, time in ms since 1970 UTC. */
export interface Print {
    at: number;
    price: number;
    size: number;
    aggressor: 'buy' | 'sell';
    /** the venue's own: each is one more than the one before */
    number: number;
}

/** Prints of one moment and side: one line of the tape. */
export interface TapeLine {
    /** number of the first print, and of the last */
    first: number;
    last: number;
    at: number;
    aggressor: 'buy' | 'sell';
    low: number;
    high: number;
    size: number;
}

/** Lines of one contract that are kept. */
const KEPT = 2000;

function append(lines: TapeLine[], print: Print): void {
    const line = lines.at(-1);
    if (line && print.number <= line.last) return;
    if (line && line.at === print.at && line.aggressor === print.aggressor) {
        line.last = print.number;
        line.size += print.size;
        line.low = Math.min(line.low, print.price);
        line.high = Math.max(line.high, print.price);
    } else {
        lines.push({
            first: print.number,
            last: print.number,
            at: print.at,
            aggressor: print.aggressor,
            low: print.price,
            high: print.price,
            size: print.size,
        });
    }
}

export function createPrints() {
    /** Newest last. */
    const kept = new Map<string, TapeLine[]>();
    const asked = new Set<string>();

    /** Prints come far oftener than frames: they are kept beside the store, so that none of them makes a component draw. */
    function keep(code: string, print: Print): void {
        const lines = kept.get(code) ?? [];
        append(lines, print);
        // Cut now and then instead of at each print.
        if (lines.length > KEPT + 256) lines.splice(0, lines.length - KEPT);
        kept.set(code, lines);
    }

    const of = (code: string): readonly TapeLine[] => kept.get(code) ?? [];

    /** What traded before this page heard anything, once for each contract. */
    async function fetch(code: string): Promise<void> {
        if (asked.has(code)) return;
        asked.add(code);
        const { items } = await call<{ items: Print[] }>('GET', `contracts/${code}/tape?most=1000`).catch((error: unknown) => {
            asked.delete(code);
            throw error;
        });
        const lines: TapeLine[] = [];
        for (const print of items.reverse()) append(lines, print);
        const heard = kept.get(code) ?? [];
        const newest = lines.at(-1)?.last ?? 0;
        kept.set(code, [...lines, ...heard.filter((line) => line.first > newest)]);
    }

    /** A new start of the engine counts prints on from where it was saved: what was heard after that moment comes again. */
    function forget(): void {
        kept.clear();
        asked.clear();
    }

    return { keep, of, fetch, forget };
}
