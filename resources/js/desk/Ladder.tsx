import { type PointerEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Account, Contract, Order } from '@/api/client';
import { say, useDesk } from '@/stream/store';
import { place } from './actions';
import { useChoices } from './choices';
import { kindOfClick } from './clickKind';
import { useLadderView } from './ladder-view';
import { pnlAt, price, writeMoney, writePrice } from './prices';
import { type ChipData, Rung } from './Rung';
import { Underlay } from './Underlay';
import { type Ghost, useGhostWords } from './useGhost';

interface Props {
    account: Account;
    contract: Contract;
    onCancel: (id: number) => void;
    onRecentre: (recentre: () => void) => void;
}

/** A second press at the same rung within this time is dropped, and said. */
const DOUBLE_MS = 150;

interface Spot {
    tick: number;
    side: Order['side'];
    shift: boolean;
}

function spotOf(event: PointerEvent<HTMLElement>): Spot | null {
    const target = event.target as HTMLElement;
    const lane = target.closest<HTMLElement>('[data-lane]');
    const rung = target.closest<HTMLElement>('[data-tick]');
    if (!lane || !rung || target.closest('[data-order]')) return null;
    return { tick: Number(rung.dataset.tick), side: lane.dataset.lane as Order['side'], shift: event.shiftKey };
}

export function Ladder({ account, contract, onCancel, onRecentre }: Props) {
    const { code } = contract;
    const book = useDesk((desk) => desk.books[code]);
    const position = useDesk((desk) => desk.positions[code]);
    const orders = useDesk((desk) => desk.orders);
    const feed = useDesk((desk) => desk.feed);
    const lots = useChoices((choices) => choices.lots);
    const plan = useChoices((choices) => choices.plan);
    const view = useLadderView(code, book);
    const [spot, setSpot] = useState<Spot | null>(null);
    const lastPress = useRef({ at: 0, where: '' });

    useEffect(() => onRecentre(view.recentre), [onRecentre, view.recentre]);

    const ghost = useMemo<Ghost | null>(() => {
        const kind = spot && book ? kindOfClick(spot.side, spot.tick, book, spot.shift) : null;
        if (!spot || !kind) return null;
        const level = price(contract, spot.tick);
        return { tick: spot.tick, side: spot.side, kind, ...(kind === 'stop' ? { trigger: level } : { price: level }) };
    }, [spot, book, contract]);

    const words = useGhostWords(
        ghost && {
            account: account.id,
            contract: code,
            quantity: lots,
            exit_plan: plan,
            side: ghost.side,
            kind: ghost.kind,
            ...(ghost.price !== undefined ? { price: ghost.price } : { trigger: ghost.trigger }),
        },
        position?.sequence ?? 0,
    );

    const point = (event: PointerEvent<HTMLElement>) => {
        const found = spotOf(event);
        setSpot((old) => (old?.tick === found?.tick && old?.side === found?.side && old?.shift === found?.shift ? old : found));
    };

    /** What the ghost says is what is sent, taken as the button goes down. */
    const press = (event: PointerEvent<HTMLElement>) => {
        if (event.button !== 0 || ghost === null) return;
        const found = spotOf(event);
        if (found === null || found.tick !== ghost.tick || found.side !== ghost.side) return;
        const now = performance.now();
        const where = `${code} ${ghost.side} ${ghost.tick}`;
        if (feed !== 'live') return say('Not sent: the feed is not live.');
        if (words?.refused) return say(`Not sent: ${words.words}`);
        if (!view.isSettled) return say('Not sent: the rungs had just moved.');
        if (where === lastPress.current.where && now - lastPress.current.at < DOUBLE_MS) return say('A second press at once was dropped.');
        lastPress.current = { at: now, where };
        const { tick: _tick, ...placement } = ghost;
        place(placement);
    };

    const chips = useMemo(() => {
        const byRung = new Map<string, ChipData[]>();
        for (const order of orders.values()) {
            if (order.contract !== code || order.level === null || order.kind === 'market') continue;
            const key = `${order.side} ${order.level}`;
            const chip: ChipData = {
                id: order.id,
                lots: order.leaves,
                role: order.role,
                words: order.words,
                steering: order.steering,
                pending: order.state.startsWith('pending'),
            };
            byRung.set(key, [...(byRung.get(key) ?? []), chip]);
        }
        return new Map([...byRung].map(([key, list]) => [key, JSON.stringify(list)]));
    }, [orders, code]);

    const cancel = useCallback((id: number) => onCancel(id), [onCancel]);
    const minor = contract.minor_unit;
    const held = position && position.quantity !== 0 ? position : null;
    const ghostText = ghost ? `${lots} ${ghost.kind}` : '';
    const rungs = [];
    for (let row = 0; row < view.rows && view.top !== null && book; row++) {
        const tick = view.top - row;
        const bid = book.bids.get(tick);
        const ask = book.asks.get(tick);
        const units = held ? pnlAt(held.pnl, tick) : 0;
        rungs.push(
            <Rung
                key={tick}
                tick={tick}
                price={writePrice(contract, tick)}
                lots={(bid ?? ask)?.[0] ?? 0}
                side={bid ? 'bid' : ask ? 'ask' : null}
                pnl={held ? writeMoney(units, held.pnl.scale, minor) : null}
                gains={units >= 0}
                lastSize={book.last?.price === tick ? book.last.size : null}
                isAverage={held?.average_level === tick}
                isTouch={tick === book.bestAsk}
                buys={chips.get(`buy ${tick}`) ?? ''}
                sells={chips.get(`sell ${tick}`) ?? ''}
                ghost={ghost?.tick === tick ? { side: ghost.side, text: ghostText, refused: words?.refused ?? false } : null}
                onCancel={cancel}
            />,
        );
    }

    return (
        <section className="ladder" aria-label={`Ladder ${code}`}>
            <p className={words?.refused ? 'strip refused' : 'strip'} aria-live="off" data-ghost={ghost?.kind}>
                {ghost
                    ? (words?.words ?? `${ghost.side === 'buy' ? 'Buy' : 'Sell'} ${lots} ${ghost.kind} ${writePrice(contract, ghost.tick)}`)
                    : 'Point at a rung: left of the price buys, right of it sells. A click sends it.'}
            </p>
            <div className="lane-heads" aria-hidden="true">
                <span>Resting</span>
                <span>Buy</span>
                <span>Price</span>
                <span>Sell</span>
                <span>P/L at</span>
            </div>
            <div
                className="rungs"
                data-settled={view.isSettled}
                ref={view.measure}
                onPointerEnter={() => view.hold(true)}
                onPointerLeave={() => {
                    view.hold(false);
                    setSpot(null);
                }}
                onPointerMove={point}
                onPointerDown={press}
            >
                <Underlay book={book} top={view.top} rows={view.rows} />
                {rungs.length > 0 ? rungs : <p className="loading">Waiting for the first picture of {code}…</p>}
                {view.isHeld && view.off !== 0 && (
                    <p className={`held-mark ${view.off > 0 ? 'up' : 'down'}`}>
                        held · market {Math.abs(view.off)} {view.off > 0 ? 'up' : 'down'} · Space centres
                    </p>
                )}
            </div>
        </section>
    );
}
