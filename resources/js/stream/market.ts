import { useEffect } from 'react';
import { create } from 'zustand';
import type { Fill, Order, Position, Risk } from '@/api/client';
import { inSight } from '@/ui/windows';
import { createColumns } from './columns';
import type { Frame } from './frames';
import { createPrints } from './prints';
import { Turns } from './turns';

/** One side's levels: tick → lots, orders. */
export type Levels = Map<number, readonly [lots: number, orders: number]>;

export interface Book {
    bids: Levels;
    asks: Levels;
    bestBid: number | null;
    bestAsk: number | null;
    last: { price: number; size: number; aggressor: 'buy' | 'sell' } | null;
}

export interface Notice {
    sequence: number;
    time: string;
    contract: string | null;
    type: string;
    words: string;
    /** whether it is told at once, and not only written down */
    speaks: boolean;
}

/** What a contract has traded today; levels in ticks, null before the first trade. */
export interface Day {
    settlement: number | null;
    open: number | null;
    high: number | null;
    low: number | null;
    lots: number;
    /** what a change is counted from */
    reference: number | null;
    average: { level: number; words: string } | null;
    limits: [low: number, high: number] | null;
    /** tick → lots bought, lots sold */
    traded: Map<number, readonly [bought: number, sold: number]>;
    /** the most lots at one price */
    most: number;
}

/** What the engine says of the depth as it is. */
export interface DepthNow {
    /** when the newest column of the history ended, ms since 1970 UTC */
    at: number;
    /** how often columns were missing: then they are asked for */
    gaps: number;
    /** within so many ticks of the best price: lots, and (bids − asks) in percent of both */
    sums: [within: number, bids: number, asks: number, imbalance: number][];
    /** tick → lots more or less than a second ago, where that is much */
    changed: Map<number, number>;
    /** tick → lots bought, lots sold in the last ten seconds */
    just: Map<number, readonly [bought: number, sold: number]>;
    /** from how many lots on a price stands out */
    unusual: number;
    /** 99 of 100 prices hold fewer lots */
    full: number;
}

/** `foreign` is what this page does not understand. */
export type FeedState = 'opening' | 'live' | 'stale' | 'away' | 'foreign';

/** Whether what is shown may be old: nothing is sent then but what closes. */
export const isBroken = (feed: FeedState): feed is 'stale' | 'away' | 'foreign' =>
    feed === 'stale' || feed === 'away' || feed === 'foreign';

export interface DeskData {
    feed: FeedState;
    /** false from the moment the tab was hidden until it has heard from the engine again */
    fresh: boolean;
    /** the last journal sequence drawn */
    sequence: number;
    epoch: string;
    /** how often a whole picture has replaced what was shown */
    pictures: number;
    books: Record<string, Book>;
    days: Record<string, Day>;
    depth: Record<string, DepthNow>;
    orders: Map<number, Order>;
    /** stops that are over, newest first: the path they took is still to be seen */
    ended: Order[];
    positions: Record<string, Position>;
    risk: Risk | null;
    fills: Fill[];
    /** the journal, newest first */
    notices: Notice[];
    /** the market's time (ms since 1970 UTC) when the engine was last heard, and this page's own clock at that moment */
    clock: { at: number; heard: number } | null;
    /** whether each contract trades now, and until when in words */
    hours: Record<
        string,
        { open: boolean; words: string; brief: string; until: string | null; exits: string | null; closes_in: number | null }
    >;
    /** ms by which the newest heartbeat took longer than the quickest: the two clocks need not agree */
    delay: number;
}

const empty: DeskData = {
    feed: 'opening',
    fresh: true,
    sequence: 0,
    epoch: '',
    pictures: 0,
    books: {},
    days: {},
    depth: {},
    orders: new Map(),
    ended: [],
    positions: {},
    risk: null,
    fills: [],
    notices: [],
    clock: null,
    hours: {},
    delay: 0,
};

/** How many fills and journal rows are kept at hand; older ones are in the journal on disk. */
const MAX_ROWS = 12_000;
/** How many stops that are over are kept at hand. */
const MAX_ENDED = 200;
const final = new Set(['filled', 'cancelled', 'rejected', 'expired']);

/** A frame that is so late has gone with its window, in ms. */
const LOST_MS = 1000;

/** A window that is in sight: others have no frames, and late timers. */
const inSightOrHere = (): Window => inSight() ?? window;

const CLOCK = 'clock';
const ACCOUNT = 'account';
const OTHERS = 'others';

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

/**
 * One market as one account sees it: what its stream has told, and what is kept beside it. Others can stand beside it, such as
 * a second account's, or a replay.
 */
export function createMarket() {
    const prints = createPrints();
    const columns = createColumns();
    /** when something was last heard, by this page's clock */
    let heardAt = Number.NEGATIVE_INFINITY;

    /** Everything that comes off the stream. Panels read it through selectors. */
    const useDesk = create<DeskData>(() => empty);

    let next: DeskData = empty;
    let due = false;
    let dueSince = 0;
    /** Sequence of the newest journal row: a stream that begins again tells some of them twice. */
    let newestNotice = 0;
    let soonDue = false;
    /** Takes back what is due. */
    let undo: (() => void)[] = [];
    /** The least difference seen between this page's clock and the engine's. */
    let leastOffset = Number.POSITIVE_INFINITY;

    /** Own changes are gathered and drawn with the next frame. */
    function change(part: Partial<DeskData>): void {
        next = { ...next, ...part };
        if (due && (inSight() === null || performance.now() - dueSince < LOST_MS)) return;
        due = true;
        dueSince = performance.now();
        const stage = inSightOrHere();
        const frame = stage.requestAnimationFrame(draw);
        undo.push(() => stage.cancelAnimationFrame(frame));
    }

    /** Contracts that are looked at closely, and by how many panels. */
    const watched = new Map<string, number>();

    /** What shows a contract's market closely says so: it is then drawn often, and by itself. */
    function useWatched(code: string): void {
        useEffect(() => {
            watched.set(code, (watched.get(code) ?? 0) + 1);
            // What came for it while it was one of the others would wait for its next change, which a quiet market may not bring.
            turns.ask(code);
            return () => {
                watched.set(code, (watched.get(code) ?? 1) - 1);
            };
        }, [code]);
    }

    const isWatched = (code: string): boolean => (watched.get(code) ?? 0) > 0;

    /** Of everything that is kept by contract, what is newest of some. */
    function newestOf(isOne: (code: string) => boolean): Pick<DeskData, 'books' | 'days' | 'depth'> {
        const shown = useDesk.getState();
        const merged = <Value>(old: Record<string, Value>, now: Record<string, Value>) => ({
            ...old,
            ...Object.fromEntries(Object.entries(now).filter(([code]) => isOne(code))),
        });
        return { books: merged(shown.books, next.books), days: merged(shown.days, next.days), depth: merged(shown.depth, next.depth) };
    }

    const others = () => newestOf((code) => !isWatched(code));

    /** The market's changes are drawn in turn: the account, each contract that is watched, all others, the clock. */
    const turns = new Turns((name) => {
        if (name === ACCOUNT)
            return { every: 90, draw: () => useDesk.setState({ positions: next.positions, orders: next.orders, risk: next.risk }) };
        if (name === OTHERS) return { every: 100, draw: () => useDesk.setState(others()) };
        // A sequence is drawn once all that was heard before it is: the other contracts come along.
        if (name === CLOCK)
            return {
                every: 0,
                draw: () =>
                    useDesk.setState({ ...others(), clock: next.clock, hours: next.hours, delay: next.delay, sequence: next.sequence }),
            };
        return { every: 45, draw: () => useDesk.setState(newestOf((code) => code === name)) };
    }, inSightOrHere);

    function market(part: Partial<DeskData>, name: string): void {
        next = { ...next, ...part };
        if (due) change({});
        else turns.ask(name);
    }

    /** The same for one contract. */
    const ofContract = (code: string, part: Partial<DeskData>): void => market(part, isWatched(code) ? code : OTHERS);

    /** Own orders do not wait for the next frame, nor for all else that comes with it: only for what has come with them. */
    function soon(orders: DeskData['orders']): void {
        next = { ...next, orders };
        if (soonDue) return;
        soonDue = true;
        // A message comes as a task of its own, behind what was heard with it; a timer would wait for milliseconds more.
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => {
            port1.close();
            if (!soonDue) return;
            soonDue = false;
            useDesk.setState({ orders: next.orders });
        };
        port2.postMessage(null);
    }

    function draw(): void {
        for (const back of undo) back();
        undo = [];
        due = soonDue = false;
        turns.clear();
        useDesk.setState(next);
    }

    function bookOf(event: Frame<'book'>): Book {
        const old = next.books[event.contract];
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

    function dayOf(event: Frame<'day'>): Day {
        const traded = new Map(event.full ? [] : next.days[event.contract]?.traded);
        for (const [tick, bought, sold] of event.traded) traded.set(tick, [bought, sold]);
        let most = 0;
        for (const [bought, sold] of traded.values()) most = Math.max(most, bought + sold);
        return { ...event, traded, most };
    }

    /** What each stream event does to what is shown. */
    const receive = {
        feed: (feed: FeedState) => {
            if (next.feed !== feed) change({ feed });
        },
        fresh: (fresh: boolean) => {
            if (next.fresh === fresh) return;
            // A hidden tab draws no frames: a click that comes with its return must find it said already.
            next = { ...next, fresh };
            draw();
        },
        /** Fills of before; what the stream has told meanwhile stays. */
        fills: (fills: Fill[]) => {
            const known = new Set(next.fills.map((fill) => fill.id));
            change({
                fills: [...next.fills, ...fills.filter((fill) => !known.has(fill.id))].sort((a, b) => b.id - a.id).slice(0, MAX_ROWS),
            });
        },
        /**
         * What the journal has told while this page did not hear it, oldest first: it is listed in its place, and not said. Gives
         * back how many lines that were.
         */
        told: (rows: Omit<Notice, 'speaks'>[]): number => {
            const known = new Set(next.notices.map((notice) => notice.sequence));
            const missed = rows.filter((row) => !known.has(row.sequence)).map((row) => ({ ...row, speaks: false }));
            newestNotice = Math.max(newestNotice, missed.at(-1)?.sequence ?? 0);
            const notices: Notice[] = [];
            let at = missed.length - 1;
            for (const notice of next.notices) {
                // What only this page said stays beside what was told when it said it.
                for (let row = missed[at]; notice.sequence > 0 && row && row.sequence > notice.sequence; row = missed[--at])
                    notices.push(row);
                notices.push(notice);
            }
            for (let row = missed[at]; row; row = missed[--at]) notices.push(row);
            change({ notices: notices.slice(0, MAX_ROWS) });
            return missed.length;
        },
        sequence: (sequence: number) => {
            if (sequence > next.sequence) change({ sequence });
        },
        /** `at` is the market's time, which can stand; `sent` is the engine's wall clock in ms. */
        heartbeat: (data: Frame<'heartbeat'>) => {
            const at = Date.parse(data.at);
            const offset = Date.now() - data.sent;
            leastOffset = Math.min(leastOffset, offset);
            // The words change once a minute: what is the same keeps its place, and draws nothing anew.
            const hours = JSON.stringify(data.hours) === JSON.stringify(next.hours) ? next.hours : data.hours;
            market(
                {
                    clock: { at, heard: performance.now() },
                    hours,
                    delay: offset - leastOffset,
                    sequence: Math.max(next.sequence, data.sequence),
                },
                CLOCK,
            );
        },
        state: (data: Frame<'state'>) => {
            next = { ...next, books: {} };
            if (next.epoch !== '' && data.epoch !== next.epoch) prints.forget();
            change({
                epoch: data.epoch,
                pictures: next.pictures + 1,
                sequence: data.sequence,
                orders: new Map(data.orders.map((order) => [order.id, order])),
                positions: Object.fromEntries(data.positions.map((position) => [position.contract, position])),
                risk: data.risk,
                days: Object.fromEntries(data.days.map((day) => [day.contract, dayOf(day)])),
                books: Object.fromEntries(Object.entries(data.books).map(([code, event]) => [code, bookOf(event)])),
            });
        },
        book: (data: Frame<'book'>) => ofContract(data.contract, { books: { ...next.books, [data.contract]: bookOf(data) } }),
        day: (data: Frame<'day'>) => ofContract(data.contract, { days: { ...next.days, [data.contract]: dayOf(data) } }),
        depth: ({ contract, columns: ended, changed, just, ...told }: Frame<'depth'>) => {
            let gaps = next.depth[contract]?.gaps ?? 0;
            for (const { step, ...column } of ended) if (columns.keep(contract, step, column)) gaps++;
            const at = Math.max(next.depth[contract]?.at ?? 0, ...ended.map((column) => column.at));
            ofContract(contract, {
                depth: {
                    ...next.depth,
                    [contract]: {
                        ...told,
                        at,
                        gaps,
                        changed: new Map(changed),
                        just: new Map(just.map(([tick, bought, sold]) => [tick, [bought, sold]])),
                    },
                },
            });
        },
        trade: (data: Frame<'trade'>) => {
            prints.keep(data.contract, data);
            const book = next.books[data.contract];
            if (book) ofContract(data.contract, { books: { ...next.books, [data.contract]: { ...book, last: data } } });
        },
        order: (order: Order) => {
            const orders = new Map(next.orders);
            if (final.has(order.state)) orders.delete(order.id);
            else orders.set(order.id, order);
            soon(orders);
            if (final.has(order.state)) receive.ended([order]);
        },
        /** Orders that are over, newest first. */
        ended: (orders: Order[]) => {
            const known = new Set(next.ended.map((order) => order.id));
            const stops = orders.filter((order) => order.path.length > 0 && !known.has(order.id));
            if (stops.length > 0) change({ ended: [...stops, ...next.ended].sort((a, b) => b.id - a.id).slice(0, MAX_ENDED) });
        },
        fill: (fill: Fill) => {
            if (!next.fills.some((known) => known.id === fill.id)) change({ fills: [fill, ...next.fills].slice(0, MAX_ROWS) });
        },
        position: (position: Position) => change({ positions: { ...next.positions, [position.contract]: position } }),
        risk: (risk: Risk) => change({ risk }),
        mark: (data: Frame<'mark'>) => {
            const positions = { ...next.positions };
            for (const moved of data.positions) {
                const known = positions[moved.contract];
                if (known) positions[moved.contract] = { ...known, ...moved };
            }
            let orders = next.orders;
            for (const [id, ahead] of data.ahead) {
                const order = orders.get(id);
                if (!order || order.ahead === ahead) continue;
                if (orders === next.orders) orders = new Map(orders);
                orders.set(id, { ...order, ahead });
            }
            market({ positions, orders, risk: data.risk }, ACCOUNT);
        },
        notice: (notice: Notice) => {
            if (notice.sequence <= newestNotice) return;
            newestNotice = notice.sequence;
            // A refusal that this page has just said in its own name is not said twice.
            const others = next.notices.filter((other) => other.type !== 'here' || notice.words !== `Refused: ${other.words}`);
            change({ notices: [notice, ...(notice.type === 'refused' ? others : next.notices)].slice(0, MAX_ROWS) });
        },
    };

    /** Numbers of what only this page says: below zero, and never twice, even within a millisecond. */
    let lastSaid = 0;

    /** Something that only this page has to say: `here` stands out like a refusal, `done` is good news. */
    function say(words: string, type: 'here' | 'done' = 'here'): void {
        // The stream is often quicker with a refusal than the answer.
        if (next.notices.slice(0, 5).some((told) => told.type === 'refused' && told.words === `Refused: ${words}`)) return;
        lastSaid = Math.min(lastSaid - 1, -Date.now());
        change({
            notices: [
                { sequence: lastSaid, time: new Date().toISOString(), contract: null, type, words, speaks: true },
                ...next.notices,
            ].slice(0, MAX_ROWS),
        });
        // A window that nobody sees draws no frames: whoever comes back to it finds it said.
        if (inSight() === null) draw();
    }

    return {
        useDesk,
        useWatched,
        receive,
        say,
        prints,
        columns,
        /** Something came from the engine, at this moment of the page's clock. */
        heard: (at: number) => {
            heardAt = at;
        },
        /** How long ago the engine was last heard, ms: asked at a press, since a timer that says so may be late itself. */
        silence: () => performance.now() - heardAt,
    };
}

export type Market = ReturnType<typeof createMarket>;
