import { call, type DepthColumn, type DepthHistory } from '@/api/client';

/** Length of a column in ms: the engine keeps ten minutes, two hours, a day of them. */
export type Step = 250 | 2000 | 15000;

/**
 * A column as it is kept: of nine contracts and three lengths there are ten thousand, and each list within a list costs several
 * times what it holds.
 */
export interface KeptColumn {
    /** when it ended, ms since 1970 UTC */
    readonly at: number;
    /** the tick of the first of its lots */
    readonly from: number;
    /** what rested at each tick from there on */
    readonly lots: Int32Array;
    /** tick, lots bought and lots sold there, one after the other */
    readonly trades: Int32Array;
}

const packed = ({ at, from, lots, trades }: DepthColumn): KeptColumn => ({
    at,
    from,
    lots: Int32Array.from(lots),
    trades: Int32Array.from(trades.flat()),
});

/** What traded at a tick in a column: lots bought, and sold. */
export function tradedAt({ trades }: KeptColumn, tick: number): [bought: number, sold: number] {
    for (let at = 0; at < trades.length; at += 3) if (trades[at] === tick) return [trades[at + 1] ?? 0, trades[at + 2] ?? 0];
    return [0, 0];
}

/** Columns of each length that are kept at hand without being asked for, for every contract. */
const KEPT: Record<Step, number> = { 250: 480, 2000: 450, 15000: 240 };
/** Columns that are kept of what has been looked back at. */
const MOST = 6000;

export function createColumns() {
    const kept = new Map<string, KeptColumn[]>();
    const fetched = new Set<string>();

    const key = (code: string, step: Step) => `${code} ${step}`;

    /**
     * Columns come four times a second for each contract: they are kept beside the store, like prints. Gives back whether
     * some are missing before this one.
     */
    function keep(code: string, step: Step, column: DepthColumn): boolean {
        const columns = kept.get(key(code, step)) ?? [];
        const last = columns.at(-1);
        if (last && column.at <= last.at) return false;
        const misses = last !== undefined && column.at - last.at > 2 * step;
        columns.push(packed(column));
        const most = fetched.has(key(code, step)) ? MOST : KEPT[step];
        // Cut now and then instead of at each column.
        if (columns.length > most + 128) columns.splice(0, columns.length - most);
        kept.set(key(code, step), columns);
        return misses;
    }

    /** Oldest first. */
    const of = (code: string, step: Step): readonly KeptColumn[] => kept.get(key(code, step)) ?? [];

    /** Fetches what is not at hand of a stretch of time; true where something came. Times in ms since 1970 UTC. */
    async function fetch(code: string, step: Step, from: number, until: number, signal: AbortSignal): Promise<boolean> {
        let after: string | null = new Date(from).toISOString();
        const found: KeptColumn[] = [];
        while (after !== null) {
            const query = new URLSearchParams({ step: String(step), after, until: new Date(until).toISOString() });
            const answer: DepthHistory = await call('GET', `contracts/${code}/depth-history?${query}`, undefined, signal);
            found.push(...answer.columns.map(packed));
            after = answer.next;
        }
        if (found.length === 0) return false;
        const merged = new Map([...of(code, step), ...found].map((column) => [column.at, column]));
        kept.set(
            key(code, step),
            [...merged.values()].sort((a, b) => a.at - b.at),
        );
        fetched.add(key(code, step));
        return true;
    }

    return { keep, of, fetch };
}
