import clsx from 'clsx';
import {
    type PointerEvent,
    type RefObject,
    useCallback,
    useEffect,
    useImperativeHandle,
    useMemo,
    useRef,
    useState,
    type WheelEvent,
} from 'react';
import type { Contract } from '@/api/client';
import { setExit, wordsOf } from '@/commands/actions';
import { chooseOrder, resizeChosen, useChosen } from '@/commands/chosen';
import { dropDraft, resizeDraft } from '@/commands/drafts';
import { markLevel } from '@/commands/levels';
import { useGhostWords } from '@/commands/useGhost';
import { useMark } from '@/commands/useMark';
import { kindWord, usePlacing } from '@/commands/usePlacing';
import { useRelease } from '@/commands/useRelease';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { dayMarks } from '@/model/dayMarks';
import { useHistoryView } from '@/model/historyView';
import { useKeyOf } from '@/model/keymap';
import type { LadderActs } from '@/model/ladderActs';
import type { LadderState } from '@/model/ladders';
import { useOneClick } from '@/model/oneClick';
import { usePending } from '@/model/pending';
import { linesOf, usePnlShown } from '@/model/pnlShown';
import { countLots, pnlAt, price as priceOf, writePnl, writePrice } from '@/model/prices';
import { RUNG_HEIGHT } from '@/model/rungHeight';
import { keepRungs, rungsOf } from '@/model/rungs';
import { useTicket } from '@/model/ticketState';
import { useModifiers, useTouchModifiers } from '@/model/useModifiers';
import { type Spot, spotOf, useSpot } from '@/model/useSpot';
import { HistoryHead } from '@/panels/history/HistoryHead';
import { Picture } from '@/panels/history/Picture';
import type { ChipData } from '@/panels/orders/Chip';
import { useChips } from '@/panels/orders/chips';
import { dragNote, exitNotes, type RungNote } from '@/panels/orders/rungNotes';
import { TouchMenu } from '@/panels/orders/TouchMenu';
import { exitAt, useDrag } from '@/panels/orders/useDrag';
import { useTouch } from '@/panels/orders/useTouch';
import { deskNow, say, useDesk, useWatched } from '@/stream/store';
import { useKeyHolder } from '@/ui/handFocus';
import { Select } from '@/ui/Select';
import { EdgeOrders } from './EdgeOrders';
import { LevelBands } from './LevelBands';
import { useLadderView, ZOOMS } from './ladderView';
import { Rung } from './Rung';
import { Strip } from './Strip';
import { TradedUnderlay, Underlay } from './Underlay';
import { WORDS } from './words';

interface Props {
    contract: Contract;
    onCancel: (id: number) => void;
    acts: RefObject<LadderActs | null>;
    /** whether keys act on it, and presses with the lots and the plan that are chosen */
    isFront: boolean;
    /** its lots, plan and one-click where it is not in front; null where they are the chosen ones */
    own: LadderState | null;
}

const SCROLL_RUNGS = 3;

const PNL_HEADS = [
    ['money', 'P/L'],
    ['ticks', 'Ticks'],
    ['percent', '% of margin'],
] as const;

/** Words that yield where there is little room. */
const ROOMY = 'not-italic @max-[560px]/slot:hidden';

/** What a click with Shift is, in words. */
const KIND_WORDS: Record<string, string> = { limit: 'limit through the market', mit: 'market if touched', 'stop-limit': 'stop-limit' };

export function Ladder({ contract, onCancel, acts, isFront, own }: Props) {
    const { code } = contract;
    useWatched(code);
    const book = useDesk((desk) => desk.books[code]);
    const position = useDesk((desk) => desk.positions[code]);
    const day = useDesk((desk) => desk.days[code]);
    const depth = useDesk((desk) => desk.depth[code]);
    const within = useHistoryView((state) => state.within);
    const heldBack = useDesk(({ risk }) =>
        risk?.barred_until
            ? WORDS.barredUntil(risk.barred_for ?? '', risk.barred_until.slice(11, 16))
            : risk?.stopped_until
              ? WORDS.stoppedUntil(risk.stopped_because ?? '', risk.stopped_until.slice(11, 16))
              : '',
    );
    const chosenLots = useChoices((choices) => choices.lots);
    const frontOneClick = useOneClick((state) => state.on);
    const { lots, oneClick } = own ?? { lots: chosenLots, oneClick: frontOneClick };
    const fan = useChosen((chosen) => chosen.fan);
    const [zooms, setZooms] = useState<Record<string, number>>({});
    const zoom = zooms[code] ?? rungsOf(code).zoom;
    const setZoom = (ticks: number) => {
        keepRungs(code, { zoom: ticks });
        setZooms((old) => ({ ...old, [code]: ticks }));
    };
    const view = useLadderView(code, book, zoom);
    const chips = useChips(code);
    const modifiers = useModifiers();
    const { spot, point, leave } = useSpot(book, code, isFront);
    const area = useRef<HTMLDivElement | null>(null);

    const { measure, hold } = view;
    const attach = useCallback(
        (element: HTMLDivElement | null) => {
            area.current = element;
            measure(element);
        },
        [measure],
    );
    // The rungs stand still under the arrow keys' spot as they do under the pointer.
    const byKeys = spot?.byKeys === true;
    useEffect(() => hold(byKeys || area.current?.matches(':hover') === true), [byKeys, hold]);

    const tickAt = (event: PointerEvent<HTMLElement>): number | null => {
        const box = area.current?.getBoundingClientRect();
        return !box || view.top === null ? null : view.top - Math.floor(((event.clientY - box.top) / RUNG_HEIGHT) * zoom);
    };
    const mark = useMark(contract, tickAt);
    const { drag, grab, grabPosition, held: heldChip, moveTo, letGo } = useDrag(contract, tickAt);

    const { ghost, shown, draft, words, moves, press, says, sends } = usePlacing(contract, zoom === 1 ? spot : null, modifiers, {
        isSettled: view.isSettled,
        isPrecise: true,
        takesPresses: true,
        own,
    });
    const pending = usePending((state) => (state.pending?.contract === code ? state.pending : null));
    const pendingWords = useGhostWords(pending, String(position?.sequence ?? 0));
    const release = useRelease();
    const touch = useTouch({
        code,
        spot,
        point: (at) => {
            hold(true);
            point(at);
        },
        leave: () => {
            hold(false);
            leave();
        },
        forget: release.forget,
    });
    const keyOf = (at: Spot | null) => (at ? `${code} ${at.side} ${at.tick}` : '');
    const exitHere = () => {
        if (!spot || !position || position.quantity === 0) return say(WORDS.pointToSetExit);
        setExit(groundOf(code), exitAt(position, spot.tick), priceOf(contract, spot.tick));
    };
    const markHere = () => (spot ? markLevel(contract, spot.tick, spot.tick) : say(WORDS.pointToMark));
    useImperativeHandle(acts, () => ({ recentre: view.recentre, place: () => press(spot, performance.now())?.(), exitHere, markHere }));

    /** A rung of several ticks has no one price: a press opens it, and the exact price is pressed then. */
    const openRung = (tick: number | null) => {
        if (tick === null) return;
        setZoom(1);
        view.centreOn(tick);
        say(WORDS.pressTheOneMeant, 'done');
    };
    const down = (event: PointerEvent<HTMLElement>) => {
        if (event.button !== 0) return;
        if (zoom > 1) return openRung(tickAt(event));
        chooseOrder(null);
        const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-part=price]');
        if (cell && useTicket.getState().open && !cell.dataset.average) {
            const tick = tickAt(event);
            if (tick !== null) useTicket.setState({ taken: { code, tick } });
            return;
        }
        if (position && (event.target as HTMLElement).closest('[data-average]')) return grabPosition(position, event);
        const at = spotOf(event);
        if (event.pointerType === 'touch' && at && touch.down(event, at)) return;
        const act = press(at, event.timeStamp);
        release.press(
            event,
            keyOf(at),
            act &&
                (() => {
                    act();
                    useTouchModifiers.setState({ modifiers: null });
                }),
        );
    };

    /** Over a chip that is chosen or held down the wheel changes its lots; anywhere else it scrolls. */
    const wheel = (event: WheelEvent<HTMLElement>) => {
        if (event.deltaY === 0) return;
        const by = event.deltaY < 0 ? 1 : -1;
        const over = (event.target as HTMLElement).closest<HTMLElement>('[data-part=chip][data-chosen]');
        const chip = heldChip();
        if (chip?.role === 'draft' || over?.dataset.draft) resizeDraft(chip?.id ?? Number(over?.dataset.draft), by);
        else if (chip || over) resizeChosen(by);
        else view.scroll(by * SCROLL_RUNGS);
    };

    const isDrawn = view.top !== null && book !== undefined;
    useEffect(() => {
        if (isDrawn && performance.getEntriesByName('first-ladder').length === 0) performance.mark('first-ladder');
    }, [isDrawn]);

    const cancel = useCallback((chip: ChipData) => (chip.role === 'draft' ? dropDraft(chip.id) : onCancel(chip.id)), [onCancel]);
    const keepGrab = useRef(grab);
    keepGrab.current = zoom === 1 ? grab : (chip) => openRung(deskNow().orders.get(chip.id)?.level ?? view.top);
    const onGrab = useCallback((chip: ChipData, event: PointerEvent<HTMLElement>) => keepGrab.current(chip, event), []);

    const held = position && position.quantity !== 0 ? position : null;
    const unit = usePnlShown((shown) => shown.unit);
    // While flat a draft says what it would make or lose; what is only pointed at would have the figures dance.
    const lines = held ? linesOf(held) : draft && !ghost ? (words?.lines ?? null) : null;
    const gainsAt = (tick: number) => lines !== null && pnlAt(lines.money, tick) >= 0;
    // What waits above the ladder has its exits on the rungs, but where something else is pointed at.
    const [saying, side] = pending && !ghost ? [pendingWords, pending.side] : [words, shown?.side];
    const exits = useMemo(
        () => (saying && side && drag === null ? exitNotes(saying.exits, side, contract) : new Map()),
        [saying, side, drag, contract],
    );
    const notesAt = (tick: number): string => {
        const notes: RungNote[] = [...(exits.get(tick) ?? [])];
        const dragged = drag === null ? null : dragNote(drag, tick, held, contract);
        if (dragged) notes.push(dragged);
        else if (drag === null && ghost?.tick === tick) {
            notes.push({
                side: ghost.side,
                kind: words?.refused ? 'refused' : 'ghost',
                text: words?.over ? WORDS.overLossRoom(says) : says,
            });
        } else if (drag === null && moves && spot?.tick === tick) {
            notes.push({ side: spot.side, kind: 'ghost', text: says });
        }
        return notes.length === 0 ? '' : JSON.stringify(notes);
    };
    const marks = useMemo(() => dayMarks(day), [day]);
    const [, bids = 0, asks = 0, imbalance = 0] = depth?.sums.find(([ticks]) => ticks === within) ?? [];
    const isIn = (low: number, tick: number) => tick >= low && tick < low + zoom;
    /** What the ticks of one rung have together; own orders all stand there, with their exact prices. */
    const gather = (low: number) => {
        const bid = [0, 0] as [number, number];
        const ask = [0, 0] as [number, number];
        const found = { bid, ask, change: 0, bought: 0, sold: 0, buys: '', sells: '', notes: '', words: '' };
        const own: Record<'buy' | 'sell', ChipData[]> = { buy: [], sell: [] };
        for (let tick = low; tick < low + zoom; tick++) {
            for (const [into, level] of [
                [bid, book?.bids.get(tick)],
                [ask, book?.asks.get(tick)],
            ] as const) {
                into[0] += level?.[0] ?? 0;
                into[1] += level?.[1] ?? 0;
            }
            found.change += depth?.changed.get(tick) ?? 0;
            const [bought, sold] = depth?.just.get(tick) ?? [0, 0];
            found.bought += bought;
            found.sold += sold;
            found.words += `${found.words && marks.has(tick) ? ' ' : ''}${marks.get(tick) ?? ''}`;
            for (const side of ['buy', 'sell'] as const) {
                const there = chips.get(`${side} ${tick}`);
                if (there && zoom === 1) found[side === 'buy' ? 'buys' : 'sells'] = there;
                else if (there)
                    own[side].push(
                        ...(JSON.parse(there) as ChipData[]).map((chip) => ({
                            ...chip,
                            words: `${writePrice(contract, tick)} ${chip.words}`,
                        })),
                    );
            }
        }
        if (own.buy.length > 0) found.buys = JSON.stringify(own.buy);
        if (own.sell.length > 0) found.sells = JSON.stringify(own.sell);
        if (zoom === 1) found.notes = notesAt(low);
        return found;
    };
    const rungWords = (tick: number, does: string): string => {
        const [bid, ask] = [book?.bids.get(tick)?.[0] ?? 0, book?.asks.get(tick)?.[0] ?? 0];
        const resting = bid > 0 ? `${countLots(bid)} bid` : ask > 0 ? `${countLots(ask)} asked` : 'nothing rests there';
        return `${writePrice(contract, tick)}, ${resting}. ${does}`;
    };
    const rungs = [];
    for (let row = 0; row < view.rows && view.top !== null && book; row++) {
        const tick = view.top - row * zoom - (zoom - 1);
        const { bid, ask, change, bought, sold, buys, sells, notes, words: done } = gather(tick);
        rungs.push(
            <Rung
                key={tick}
                tick={tick}
                price={writePrice(contract, tick)}
                lots={bid[0] + ask[0]}
                orders={bid[1] + ask[1]}
                change={change}
                bought={bought}
                sold={sold}
                isUnusual={depth !== undefined && depth.unusual > 0 && bid[0] + ask[0] >= depth.unusual * zoom}
                day={done}
                isBeyond={day?.limits != null && (tick < day.limits[0] || tick > day.limits[1])}
                side={bid[0] > 0 ? 'bid' : ask[0] > 0 ? 'ask' : null}
                pnl={lines && writePnl(lines, unit, tick, contract.minor_unit)}
                gains={gainsAt(tick)}
                lastSize={book.last && isIn(tick, book.last.price) ? book.last.size : null}
                isAverage={held?.average_level != null && isIn(tick, held.average_level)}
                isTouch={book.bestAsk !== null && isIn(tick, book.bestAsk)}
                isCursor={byKeys && spot?.tick === tick}
                buys={buys}
                sells={sells}
                notes={notes}
                fanned={fan === `buy ${tick}` ? 'buy' : fan === `sell ${tick}` ? 'sell' : null}
                onGrab={onGrab}
                onCancel={cancel}
            />,
        );
    }

    const keysElsewhere = useKeyHolder((state) => state.holder !== null);
    const plain = shown
        ? `${shown.side === 'buy' ? 'Buy' : 'Sell'} ${ghost ? lots : draft?.lots} ${kindWord(shown.kind)} ${writePrice(contract, shown.tick)}`
        : '';
    const after =
        draft && !ghost
            ? keysElsewhere
                ? WORDS.isDraftOf
                : WORDS.isDraft
            : ghost && words && !words.refused
              ? sends
                  ? WORDS.clickSends
                  : WORDS.clickMakesDraft
              : '';
    const stopLimitKey = WORDS.altShiftOr(useKeyOf('stop-limit'));
    const heldKeys = !spot
        ? ''
        : modifiers.draft
          ? 'D: a draft'
          : modifiers.shift
            ? ghost
                ? `${modifiers.alt ? stopLimitKey : 'Shift'}: ${KIND_WORDS[ghost.kind] ?? ghost.kind}`
                : moves
                  ? 'Shift: move the stop'
                  : 'Shift: nothing here'
            : '';

    return (
        <section className="relative flex min-h-0 flex-1 flex-col border-r border-rule" data-part="ladder" aria-label={`Ladder ${code}`}>
            <Strip
                contract={contract}
                words={moves || (shown ? `${words?.words ?? plain}${after}` : '')}
                kind={shown?.kind}
                refused={words?.refused ?? false}
                over={words?.over ?? false}
                waiting={pending && (pendingWords?.words ?? wordsOf(pending))}
                modifiers={heldKeys}
                rest={heldBack || WORDS.pointAtRung(oneClick)}
            />
            {/* Where the arrow keys have gone: the strip says it to the eye. */}
            <output className="sr-only" aria-live="polite" data-field="pointed-rung">
                {byKeys && spot && rungWords(spot.tick, moves || words?.words || '')}
            </output>
            {touch.asks && <TouchMenu close={touch.answered} />}
            <div className="lane-heads border-b border-rule py-1 text-center text-tiny whitespace-nowrap text-soft" data-part="lane-heads">
                <HistoryHead code={code} />
                <div className="rung-heads" data-part="rung-heads">
                    <span className="overflow-hidden pr-8 text-right">
                        Resting<i className={ROOMY}> · orders</i>
                    </span>
                    <span>
                        Buy
                        <span className="ml-10">
                            <i className={ROOMY}>Bids </i>
                            <Sum lots={bids} of="bids" within={within} />
                        </span>
                    </span>
                    <span>
                        <Select
                            look="plain"
                            className="cursor-pointer text-ink"
                            aria-label="Ticks a rung"
                            value={zoom}
                            onChange={(event) => setZoom(+event.target.value)}
                        >
                            {ZOOMS.map((ticks) => (
                                <option key={ticks} value={ticks}>
                                    Price · {ticks} {ticks === 1 ? 'tick' : 'ticks'}
                                </option>
                            ))}
                        </Select>
                    </span>
                    <span>
                        Sell
                        <span className="ml-10">
                            <i className={ROOMY}>Asks </i>
                            <Sum lots={asks} of="asks" within={within} />{' '}
                            <em className={`${ROOMY} inline-block min-w-42`} title={WORDS.imbalance(within)} data-field="imbalance">
                                {depth && `${imbalance > 0 ? '+' : ''}${imbalance} %`}
                            </em>
                        </span>
                    </span>
                    <span className="pr-8 text-right @max-[430px]/slot:hidden">
                        <Select
                            look="plain"
                            className="field-sizing-content max-w-full cursor-pointer appearance-none text-right"
                            aria-label={WORDS.lastColumn}
                            data-field="pnl-unit"
                            value={unit}
                            onChange={(event) => usePnlShown.setState({ unit: event.target.value as typeof unit })}
                        >
                            {PNL_HEADS.map(([of, words]) => (
                                <option key={of} value={of}>
                                    {words}
                                    {of === 'percent'
                                        ? ''
                                        : held?.average_words
                                          ? ` from ${held.average_words}`
                                          : lines
                                            ? ' of the draft'
                                            : ' · volume'}
                                </option>
                            ))}
                        </Select>
                    </span>
                </div>
            </div>
            {/* biome-ignore lint/a11y/noStaticElementInteractions: a key marks levels too */}
            <div
                className="ladder-body relative min-h-0 flex-1 grid-rows-[minmax(0,1fr)] overflow-hidden"
                onContextMenu={(event) => event.preventDefault()}
                onPointerDown={mark.onPointerDown}
                onPointerMove={mark.onPointerMove}
                onPointerUp={mark.onPointerUp}
                onPointerCancel={mark.onPointerCancel}
            >
                {view.top !== null && <LevelBands contract={contract} top={view.top} rows={view.rows} zoom={zoom} marking={mark.marking} />}
                <Picture contract={contract} position={held} top={view.top} rows={view.rows} zoom={zoom} />
                <div
                    className="relative min-h-0 touch-none overflow-hidden select-none"
                    data-part="rungs"
                    data-settled={view.isSettled}
                    ref={attach}
                    onPointerEnter={() => hold(true)}
                    onPointerLeave={(event) => {
                        // A finger leaves with each touch: what it pointed at stands for a while.
                        if (event.pointerType === 'touch') return;
                        hold(byKeys);
                        leave();
                    }}
                    onPointerMove={(event) => point(moveTo(event) || zoom > 1 ? null : spotOf(event))}
                    onPointerDown={down}
                    onPointerUp={(event) => {
                        release.letGo(event, keyOf(spotOf(event)));
                        letGo(event);
                    }}
                    onWheel={wheel}
                >
                    <Underlay book={book} full={depth?.full} unusual={depth?.unusual} top={view.top} rows={view.rows} zoom={zoom} />
                    <TradedUnderlay day={day} besidePnl={lines !== null} top={view.top} rows={view.rows} zoom={zoom} />
                    {/* Over the canvases behind them, rungs would each be a layer of their own; so they share one. */}
                    <div
                        className="relative will-change-transform"
                        {...(rungs.length > 0 && { role: 'grid', 'aria-label': WORDS.rungsOf(code) })}
                    >
                        {rungs.length > 0 ? rungs : <p className="p-16 text-soft">{WORDS.waitingForPicture(code)}</p>}
                    </div>
                    {view.top !== null && (
                        <EdgeOrders
                            code={code}
                            top={view.top}
                            bottom={view.top - view.rows * zoom + 1}
                            market={view.market}
                            show={view.centreOn}
                        />
                    )}
                    {view.isHeld && view.off !== 0 && (
                        <p
                            className={clsx(
                                'pointer-events-none absolute right-8 bg-ink px-8 py-1 text-small text-raised',
                                view.off > 0 ? 'top-0' : 'bottom-0',
                            )}
                            data-part="held-mark"
                        >
                            held · market {Math.abs(view.off)} {view.off > 0 ? 'up' : 'down'} · Space centres
                        </p>
                    )}
                </div>
            </div>
        </section>
    );
}

/** Lots that rest near the market on one side. */
function Sum({ lots, of, within }: { lots: number; of: string; within: number }) {
    return (
        <b className="font-normal text-ink tabular-nums" title={WORDS.sumWithin(of, within)} data-field={of}>
            {lots}
        </b>
    );
}
