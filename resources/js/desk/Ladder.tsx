import { type PointerEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Account, Contract, Order } from '@/api/client';
import { say, useDesk } from '@/stream/store';
import { place } from './actions';
import type { ChipData } from './Chip';
import { useChips } from './chips';
import { useChoices } from './choices';
import { kindOfClick } from './clickKind';
import { addDraft, dropDraft, useDrafts } from './drafts';
import { RUNG_HEIGHT, useLadderView } from './ladder-view';
import { usedOneClick, useOneClick } from './oneClick';
import { levelOf, pnlAt, writeMoney, writePrice } from './prices';
import { Rung } from './Rung';
import { Underlay } from './Underlay';
import { useDrag } from './useDrag';
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
    if (!lane || !rung || target.closest('.chip')) return null;
    return { tick: Number(rung.dataset.tick), side: lane.dataset.lane as Order['side'], shift: event.shiftKey };
}

/** Whether the D key is down: then a click makes a draft even while one-click is on. */
function useDraftKey(): { current: boolean } {
    const down = useRef(false);
    useEffect(() => {
        const track = (event: KeyboardEvent) => {
            if (event.key.toLowerCase() === 'd') down.current = event.type === 'keydown';
        };
        window.addEventListener('keydown', track);
        window.addEventListener('keyup', track);
        return () => {
            window.removeEventListener('keydown', track);
            window.removeEventListener('keyup', track);
        };
    }, []);
    return down;
}

export function Ladder({ account, contract, onCancel, onRecentre }: Props) {
    const { code } = contract;
    const book = useDesk((desk) => desk.books[code]);
    const position = useDesk((desk) => desk.positions[code]);
    const feed = useDesk((desk) => desk.feed);
    const fresh = useDesk((desk) => desk.fresh);
    const lots = useChoices((choices) => choices.lots);
    const plan = useChoices((choices) => choices.plan);
    const oneClick = useOneClick((state) => state.on);
    const draft = useDrafts((state) => state.list.find((candidate) => candidate.id === state.chosen && candidate.contract === code));
    const view = useLadderView(code, book);
    const chips = useChips(code);
    const draftKey = useDraftKey();
    const [spot, setSpot] = useState<Spot | null>(null);
    const lastPress = useRef({ at: 0, where: '' });
    const area = useRef<HTMLDivElement | null>(null);

    const { measure } = view;
    const attach = useCallback(
        (element: HTMLDivElement | null) => {
            area.current = element;
            measure(element);
        },
        [measure],
    );

    useEffect(() => onRecentre(view.recentre), [onRecentre, view.recentre]);

    const tickAt = (event: PointerEvent<HTMLElement>): number | null => {
        const box = area.current?.getBoundingClientRect();
        return !box || view.top === null ? null : view.top - Math.floor((event.clientY - box.top) / RUNG_HEIGHT);
    };
    const { drag, grab, moveTo, letGo } = useDrag(contract, tickAt);

    const ghost = useMemo<Ghost | null>(() => {
        const kind = spot && book ? kindOfClick(spot.side, spot.tick, book, spot.shift) : null;
        return spot && kind ? { tick: spot.tick, side: spot.side, ...levelOf(contract, kind, spot.tick) } : null;
    }, [spot, book, contract]);

    const shown = ghost ?? draft ?? null;
    const words = useGhostWords(
        shown && {
            account: account.id,
            contract: code,
            quantity: ghost ? lots : (draft?.lots ?? lots),
            exit_plan: ghost ? plan : (draft?.plan ?? null),
            side: shown.side,
            kind: shown.kind,
            ...(shown.price !== undefined ? { price: shown.price } : { trigger: shown.trigger }),
        },
        position?.sequence ?? 0,
    );

    const point = (event: PointerEvent<HTMLElement>) => {
        const found = moveTo(event) ? null : spotOf(event);
        setSpot((old) => (old?.tick === found?.tick && old?.side === found?.side && old?.shift === found?.shift ? old : found));
    };

    /** What the ghost says is what is sent (or made a draft of), taken as the button goes down. */
    const press = (event: PointerEvent<HTMLElement>) => {
        if (event.button !== 0 || ghost === null) return;
        const found = spotOf(event);
        if (found === null || found.tick !== ghost.tick || found.side !== ghost.side) return;
        const now = performance.now();
        const where = `${code} ${ghost.side} ${ghost.tick}`;
        if (where === lastPress.current.where && now - lastPress.current.at < DOUBLE_MS) return say('A second press at once was dropped.');
        if (!view.isSettled) return say('Not sent: the rungs had just moved.');
        const { tick, ...placement } = ghost;
        const sends = !draftKey.current && (oneClick || words?.closesOnly === true);
        if (!sends) {
            lastPress.current = { at: now, where };
            return addDraft({ ...placement, contract: code, tick, lots, plan });
        }
        if (feed !== 'live') return say('Not sent: the feed is not live.');
        if (!fresh) return say('Not sent: this tab was hidden and has not heard from the engine since.');
        if (words?.refused) return say(`Not sent: ${words.words}`);
        lastPress.current = { at: now, where };
        usedOneClick();
        place(placement);
    };

    const isDrawn = view.top !== null && book !== undefined;
    useEffect(() => {
        if (isDrawn && performance.getEntriesByName('first-ladder').length === 0) performance.mark('first-ladder');
    }, [isDrawn]);

    const cancel = useCallback((chip: ChipData) => (chip.role === 'draft' ? dropDraft(chip.id) : onCancel(chip.id)), [onCancel]);
    const keepGrab = useRef(grab);
    keepGrab.current = grab;
    const onGrab = useCallback((chip: ChipData) => keepGrab.current(chip), []);

    const minor = contract.minor_unit;
    const held = position && position.quantity !== 0 ? position : null;
    const moneyAt = (tick: number) => (held ? writeMoney(pnlAt(held.pnl, tick), held.pnl.scale, minor) : null);
    const dragged = drag ? useDesk.getState().orders.get(drag.chip.id) : undefined;
    const label = (tick: number): { side: Order['side']; text: string; refused: boolean } | null => {
        if (drag && dragged)
            return drag.to === tick
                ? { side: dragged.side, text: `${drag.chip.lots} → ${[writePrice(contract, tick), moneyAt(tick)].filter(Boolean).join(' · ')}`, refused: false }
                : null;
        return ghost?.tick === tick ? { side: ghost.side, text: `${lots} ${ghost.kind}${oneClick ? '' : ' · draft'}`, refused: words?.refused ?? false } : null;
    };
    const rungs = [];
    for (let row = 0; row < view.rows && view.top !== null && book; row++) {
        const tick = view.top - row;
        const bid = book.bids.get(tick);
        const ask = book.asks.get(tick);
        rungs.push(
            <Rung
                key={tick}
                tick={tick}
                price={writePrice(contract, tick)}
                lots={(bid ?? ask)?.[0] ?? 0}
                side={bid ? 'bid' : ask ? 'ask' : null}
                pnl={moneyAt(tick)}
                gains={held !== null && pnlAt(held.pnl, tick) >= 0}
                lastSize={book.last?.price === tick ? book.last.size : null}
                isAverage={held?.average_level === tick}
                isTouch={tick === book.bestAsk}
                buys={chips.get(`buy ${tick}`) ?? ''}
                sells={chips.get(`sell ${tick}`) ?? ''}
                ghost={label(tick)}
                onGrab={onGrab}
                onCancel={cancel}
            />,
        );
    }

    const plain = shown ? `${shown.side === 'buy' ? 'Buy' : 'Sell'} ${ghost ? lots : draft?.lots} ${shown.kind} ${writePrice(contract, shown.tick)}` : '';
    const after = draft && !ghost ? ' · draft: Enter sends, Esc drops' : ghost && !oneClick && words && !words.closesOnly ? ' · a click makes a draft' : '';

    return (
        <section className="ladder" aria-label={`Ladder ${code}`}>
            <p className={words?.refused ? 'strip refused' : 'strip'} aria-live="off" data-ghost={shown?.kind}>
                {shown
                    ? `${words?.words ?? plain}${after}`
                    : `Point at a rung: left of the price buys, right of it sells. A click ${oneClick ? 'sends at once' : 'makes a draft'}.`}
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
                ref={attach}
                onPointerEnter={() => view.hold(true)}
                onPointerLeave={() => {
                    view.hold(false);
                    setSpot(null);
                }}
                onPointerMove={point}
                onPointerDown={press}
                onPointerUp={letGo}
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
