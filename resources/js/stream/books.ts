import type { Book, Day, Levels } from './deskData';
import type { Frame } from './frames';

type Row = [tick: number, lots: number, orders: number];

function merge(levels: Levels, rows: Row[], full: boolean): Levels {
    const merged: Levels = full ? new Map() : new Map(levels);
    for (const [tick, lots, orders] of rows) {
        if (lots === 0) merged.delete(tick);
        else merged.set(tick, [lots, orders]);
    }
    return merged;
}

function best(levels: Levels, pick: (a: number, b: number) => number): number | null {
    let found: number | null = null;
    for (const tick of levels.keys()) found = found === null ? tick : pick(found, tick);
    return found;
}

/** A book as an event leaves it: whole, or with what has changed. */
export function bookAfter(old: Book | undefined, event: Frame<'book'>): Book {
    const full = event.full === true || old === undefined;
    const bids = merge(old?.bids ?? new Map(), event.bids, full);
    const asks = merge(old?.asks ?? new Map(), event.asks, full);
    return {
        bids,
        asks,
        bestBid: best(bids, Math.max),
        bestAsk: best(asks, Math.min),
        last: event.last ?? old?.last ?? null,
    };
}

/** What a contract has traded today, as an event leaves it. */
export function dayAfter(old: Day | undefined, event: Frame<'day'>): Day {
    const traded = new Map(event.full ? [] : old?.traded);
    for (const [tick, bought, sold] of event.traded) traded.set(tick, [bought, sold]);
    let most = 0;
    for (const [bought, sold] of traded.values()) most = Math.max(most, bought + sold);
    return { ...event, traded, most };
}
