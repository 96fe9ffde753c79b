import { useEffect } from 'react';
import { create } from 'zustand';
import type { Fill, Order, Position, Risk } from '@/api/client';
import { inSight } from '@/ui/windows';
import { bookAfter, dayAfter } from './books';
import { createColumns } from './columns';
import { type DeskData, EMPTY, type FeedState, type Notice } from './deskData';
import { DrawingTurns } from './drawingTurns';
import type { Frame } from './frames';
import { createPrints } from './prints';

/** How many fills and journal rows are kept at hand; older ones are in the journal on disk. */
const MAX_ROWS = 12_000;
/** How many stops that are over are kept at hand. */
const MAX_ENDED = 200;
const final = new Set(['filled', 'cancelled', 'rejected', 'expired']);

/** A frame that is so late has gone with its window, in ms. */
const LOST_MS = 1000;

/** A window that is in sight: others have no frames, and late timers. */
const inSightOrHere = (): Window => inSight() ?? window;

const takerOf = (sign: number): 'buy' | 'sell' => (sign > 0 ? 'buy' : 'sell');

const CLOCK = 'clock';
const ACCOUNT = 'account';
const OTHERS = 'others';

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
    const useDesk = create<DeskData>(() => EMPTY);

    let next: DeskData = EMPTY;
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
    const turns = new DrawingTurns((name) => {
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
            if (next.epoch !== '' && data.epoch !== next.epoch) prints.forget();
            change({
                epoch: data.epoch,
                pictures: next.pictures + 1,
                sequence: data.sequence,
                orders: new Map(data.orders.map((order) => [order.id, order])),
                positions: Object.fromEntries(data.positions.map((position) => [position.contract, position])),
                risk: data.risk,
                days: Object.fromEntries(data.days.map((day) => [day.contract, dayAfter(next.days[day.contract], day)])),
                books: Object.fromEntries(Object.entries(data.books).map(([code, event]) => [code, bookAfter(undefined, event)])),
            });
        },
        book: (data: Frame<'book'>) =>
            ofContract(data.contract, { books: { ...next.books, [data.contract]: bookAfter(next.books[data.contract], data) } }),
        day: (data: Frame<'day'>) =>
            ofContract(data.contract, { days: { ...next.days, [data.contract]: dayAfter(next.days[data.contract], data) } }),
        depth: ({ contract, columns: ended, changed, just, ...told }: Frame<'depth'>) => {
            const gaps = { ...next.depth[contract]?.gaps };
            for (const { step, ...column } of ended) if (columns.keep(contract, step, column)) gaps[step] = (gaps[step] ?? 0) + 1;
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
        trades: ({ contract, rows }: Frame<'trades'>) => {
            for (const [at, price, size, sign, number] of rows)
                prints.keep(contract, { at, price, size, aggressor: takerOf(sign), number });
            const [, price = 0, size = 0, sign = 0] = rows.at(-1) ?? [];
            const book = next.books[contract];
            const last = { price, size, aggressor: takerOf(sign) };
            if (book && rows.length > 0) ofContract(contract, { books: { ...next.books, [contract]: { ...book, last } } });
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
