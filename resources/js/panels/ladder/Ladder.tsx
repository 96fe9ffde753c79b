import clsx from 'clsx';
import { type PointerEvent, type RefObject, useCallback, useEffect, useImperativeHandle, useMemo, useRef, useState } from 'react';
import type { Contract } from '@/api/client';
import { setExit, wordsOf } from '@/commands/actions';
import { useChosen } from '@/commands/chosen';
import { markLevel } from '@/commands/levels';
import { useGhostWords } from '@/commands/useGhost';
import { useMark } from '@/commands/useMark';
import { kindWord, usePlacing } from '@/commands/usePlacing';
import { useRelease } from '@/commands/useRelease';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { dayMarks } from '@/model/dayMarks';
import { useKeyOf } from '@/model/keymap';
import type { LadderActs } from '@/model/ladderActs';
import type { LadderState } from '@/model/ladders';
import { useOneClick } from '@/model/oneClick';
import { usePending } from '@/model/pending';
import { linesOf, usePnlShown } from '@/model/pnlShown';
import { countLots, pnlAt, price as priceOf, writePnl, writePrice } from '@/model/prices';
import { RUNG_HEIGHT } from '@/model/rungHeight';
import { keepRungs, rungsOf } from '@/model/rungs';
import { useModifiers } from '@/model/useModifiers';
import { spotOf, useSpot } from '@/model/useSpot';
import type { ChipData } from '@/panels/chips/Chip';
import { useChips } from '@/panels/chips/chips';
import { dragNote, exitNotes, type RungNote } from '@/panels/chips/rungNotes';
import { TouchMenu } from '@/panels/chips/TouchMenu';
import { takeAway } from '@/panels/chips/takeAway';
import { exitAt, useDrag } from '@/panels/chips/useDrag';
import { useTouch } from '@/panels/chips/useTouch';
import { HistoryHead } from '@/panels/history/HistoryHead';
import { Picture } from '@/panels/history/Picture';
import { deskNow, isBroken, say, useDesk, useWatched } from '@/stream/store';
import { useKeyHolder } from '@/ui/handFocus';
import { EdgeOrders } from './EdgeOrders';
import { LadderHeads } from './LadderHeads';
import { LevelBands } from './LevelBands';
import { useLadderView } from './ladderView';
import { Rung } from './Rung';
import { rungsFrom } from './rungsFrom';
import { Strip } from './Strip';
import { TradedUnderlay, Underlay } from './Underlay';
import { useRungPresses } from './useRungPresses';
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

/** What a click with Shift is, in words. */
const KIND_WORDS: Record<string, string> = { limit: 'limit through the market', mit: 'market if touched', 'stop-limit': 'stop-limit' };

export function Ladder({ contract, onCancel, acts, isFront, own }: Props) {
    const { code } = contract;
    useWatched(code);
    const book = useDesk((desk) => desk.books[code]);
    const position = useDesk((desk) => desk.positions[code]);
    const day = useDesk((desk) => desk.days[code]);
    const depth = useDesk((desk) => desk.depth[code]);
    const heldBack = useDesk(({ risk }) =>
        risk?.barred_until
            ? WORDS.barredUntil(risk.barred_for ?? '', risk.barred_until.slice(11, 16))
            : risk?.stopped_until
              ? WORDS.stoppedUntil(risk.stopped_because ?? '', risk.stopped_until.slice(11, 16))
              : '',
    );
    // What is shown may be old: a press sends nothing then, and the line above says so instead of what it would send.
    const isOld = useDesk((desk) => isBroken(desk.feed));
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
    const dragging = useDrag(contract, tickAt);
    const { drag, grab, moveTo } = dragging;

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
    const exitHere = () => {
        if (!spot || !position || position.quantity === 0) return say(WORDS.pointToSetExit);
        setExit(groundOf(code), exitAt(position, spot.tick), priceOf(contract, spot.tick));
    };
    const markHere = () => (spot ? markLevel(contract, spot.tick, spot.tick) : say(WORDS.pointToMark));
    useImperativeHandle(acts, () => ({ recentre: view.recentre, place: () => press(spot, performance.now())?.(), exitHere, markHere }));

    const { openRung, ...presses } = useRungPresses({
        contract,
        zoom,
        setZoom,
        view,
        tickAt,
        position,
        press,
        release,
        touch,
        dragging,
    });

    const isDrawn = view.top !== null && book !== undefined;
    useEffect(() => {
        if (isDrawn && performance.getEntriesByName('first-ladder').length === 0) performance.mark('first-ladder');
    }, [isDrawn]);

    const cancel = useCallback((chip: ChipData) => takeAway(chip, onCancel), [onCancel]);
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
    const rungWords = (tick: number, does: string): string => {
        const [bid, ask] = [book?.bids.get(tick)?.[0] ?? 0, book?.asks.get(tick)?.[0] ?? 0];
        const resting = bid > 0 ? `${countLots(bid)} bid` : ask > 0 ? `${countLots(ask)} asked` : 'nothing rests there';
        return `${writePrice(contract, tick)}, ${resting}. ${does}`;
    };
    const rungs =
        view.top === null || !book
            ? []
            : rungsFrom({ contract, book, depth, day, marks, chips }, { top: view.top, rows: view.rows, zoom }).map((rung) => (
                  <Rung
                      {...rung}
                      key={rung.tick}
                      price={writePrice(contract, rung.tick)}
                      pnl={lines && writePnl(lines, unit, rung.tick, contract.minor_unit)}
                      gains={gainsAt(rung.tick)}
                      isAverage={held?.average_level != null && held.average_level >= rung.tick && held.average_level < rung.tick + zoom}
                      isCursor={byKeys && spot?.tick === rung.tick}
                      notes={zoom === 1 ? notesAt(rung.tick) : ''}
                      fanned={fan === `buy ${rung.tick}` ? 'buy' : fan === `sell ${rung.tick}` ? 'sell' : null}
                      onGrab={onGrab}
                      onCancel={cancel}
                  />
              ));

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
                words={isOld ? WORDS.sendsNothing : moves || (shown ? `${words?.words ?? plain}${after}` : '')}
                kind={shown?.kind}
                refused={isOld || (words?.refused ?? false)}
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
                <LadderHeads
                    depth={depth}
                    zoom={zoom}
                    setZoom={setZoom}
                    average={held?.average_words ?? null}
                    isOfDraft={!held && lines !== null}
                />
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
                    {...presses}
                >
                    <div className="ground" aria-hidden>
                        <i />
                        <i className="ground-lane" />
                        <i className="ground-price" />
                        <i className="ground-lane" />
                    </div>
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
