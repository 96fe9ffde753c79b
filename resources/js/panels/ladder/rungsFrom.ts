import type { Contract } from '@/api/client';
import { writePrice } from '@/model/prices';
import type { ChipData } from '@/panels/chips/Chip';
import type { Book, Day, DepthNow } from '@/stream/store';

/** What stands at the price of one rung, or at all of those that it stands for. */
export interface RungData {
    /** the lowest of its ticks */
    tick: number;
    side: 'bid' | 'ask' | null;
    lots: number;
    orders: number;
    /** lots more or less than a second ago */
    change: number;
    /** lots of the last ten seconds */
    bought: number;
    sold: number;
    isUnusual: boolean;
    /** what the day did there, in words */
    day: string;
    isBeyond: boolean;
    lastSize: number | null;
    isTouch: boolean;
    /** the chips of each lane, as JSON */
    buys: string;
    sells: string;
}

interface Market {
    contract: Contract;
    book: Book;
    depth: DepthNow | undefined;
    day: Day | undefined;
    /** tick → words */
    marks: ReadonlyMap<number, string>;
    /** `side tick` → the chips there, as JSON */
    chips: ReadonlyMap<string, string>;
}

interface Shown {
    /** the highest tick of the top rung */
    top: number;
    rows: number;
    /** ticks that a rung stands for */
    zoom: number;
}

/** Own orders all stand on their rung; one of several ticks says the exact price of each. */
function chipsOf({ contract, chips }: Market, side: 'buy' | 'sell', low: number, zoom: number): string {
    if (zoom === 1) return chips.get(`${side} ${low}`) ?? '';
    const all: ChipData[] = [];
    for (let tick = low; tick < low + zoom; tick++) {
        const there = chips.get(`${side} ${tick}`);
        if (!there) continue;
        for (const chip of JSON.parse(there) as ChipData[]) all.push({ ...chip, words: `${writePrice(contract, tick)} ${chip.words}` });
    }
    return all.length === 0 ? '' : JSON.stringify(all);
}

function rungAt(market: Market, low: number, zoom: number): RungData {
    const { book, depth, day, marks } = market;
    const isIn = (tick: number) => tick >= low && tick < low + zoom;
    const found = { bid: 0, ask: 0, orders: 0, change: 0, bought: 0, sold: 0 };
    const words: string[] = [];
    for (let tick = low; tick < low + zoom; tick++) {
        const [bid, ask] = [book.bids.get(tick), book.asks.get(tick)];
        found.bid += bid?.[0] ?? 0;
        found.ask += ask?.[0] ?? 0;
        found.orders += (bid?.[1] ?? 0) + (ask?.[1] ?? 0);
        found.change += depth?.changed.get(tick) ?? 0;
        const [bought, sold] = depth?.just.get(tick) ?? [0, 0];
        found.bought += bought;
        found.sold += sold;
        const mark = marks.get(tick);
        if (mark) words.push(mark);
    }
    const { bid, ask, ...rest } = found;
    return {
        ...rest,
        tick: low,
        side: bid > 0 ? 'bid' : ask > 0 ? 'ask' : null,
        lots: bid + ask,
        isUnusual: depth !== undefined && depth.unusual > 0 && bid + ask >= depth.unusual * zoom,
        day: words.join(' '),
        isBeyond: day?.limits != null && (low < day.limits[0] || low > day.limits[1]),
        lastSize: book.last && isIn(book.last.price) ? book.last.size : null,
        isTouch: book.bestAsk !== null && isIn(book.bestAsk),
        buys: chipsOf(market, 'buy', low, zoom),
        sells: chipsOf(market, 'sell', low, zoom),
    };
}

/** What the rungs show, from the top down: each stands for as many ticks as they are zoomed to. */
export const rungsFrom = (market: Market, { top, rows, zoom }: Shown): RungData[] =>
    Array.from({ length: rows }, (_, row) => rungAt(market, top - row * zoom - (zoom - 1), zoom));
