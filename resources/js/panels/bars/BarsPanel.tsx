import { type PointerEvent, type ReactNode, useEffect, useMemo, useRef, useState, type WheelEvent } from 'react';
import type { Bars, Contract } from '@/api/client';
import { chooseOrder } from '@/commands/chosen';
import { levelWords, useLevels } from '@/commands/levels';
import { useMark } from '@/commands/useMark';
import { usePlacing } from '@/commands/usePlacing';
import { useRelease } from '@/commands/useRelease';
import { setBars, sizeWords, useBarsView } from '@/model/barsView';
import { useChoices } from '@/model/choices';
import { drawFillMarks, useFillMarks } from '@/model/fillMarks';
import { bringToFront, type LadderState } from '@/model/ladders';
import { writePrice } from '@/model/prices';
import { useModifiers, useTouchModifiers } from '@/model/useModifiers';
import type { Spot } from '@/model/useSpot';
import { Chip, type ChipData } from '@/panels/chips/Chip';
import { useChips } from '@/panels/chips/chips';
import { Note } from '@/panels/chips/Note';
import { dragNote } from '@/panels/chips/rungNotes';
import { TouchMenu } from '@/panels/chips/TouchMenu';
import { takeAway } from '@/panels/chips/takeAway';
import { useDrag } from '@/panels/chips/useDrag';
import { useTouch } from '@/panels/chips/useTouch';
import { useDesk, useWatched } from '@/stream/store';
import { Band } from '@/ui/Band';
import { SETTLE_MS } from '@/ui/settle';
import { surface, useColours } from '@/ui/useColours';
import { BarsAxis } from './BarsAxis';
import { BarsHead } from './BarsHead';
import { barAt, drawBars, type Field, rangeOf, shownBars, tickOf, xOf, yOf } from './drawBars';
import { AXIS, LANE, RIGHT } from './measures';
import { type Name, Names } from './Names';
import { Standing } from './Standing';
import { useBars } from './useBars';
import { WORDS } from './words';

interface Props {
    contract: Contract;
    onCancel: (id: number) => void;
    /** says which contract it shows, and changes that */
    pin: ReactNode;
    /** the ladder that it follows, where that is not in front */
    own: LadderState | null;
}

/** Prices closer together than this cannot be told apart with a pointer: a press makes a draft there. */
const PRECISE_PX = 3;
/** A finger that touches so near to the price that was said means that one, in pixels. */
const FINGER_PX = 22;
const PITCHES = [3, 4, 6, 8, 12, 18] as const;
/** For names at the left, at most, and the part of the picture that they take where that is less. */
const NAMES_PX = 120;
const NAMES_PART = 0.2;
const EMPTY: Bars['bars'] = [];

/**
 * Bars beside their price axis. The axis has the ladder's two lanes: a press left of the price buys, right of it sells,
 * by the same rules; orders and the position stand there and can be dragged.
 */
export function BarsPanel({ contract, onCancel, pin, own }: Props) {
    const { code } = contract;
    const { by, size, width: pitch } = useBarsView();
    const found = useBars(code, by, size);
    const bars = found?.bars ?? EMPTY;
    useWatched(code);
    const book = useDesk((desk) => desk.books[code]);
    const position = useDesk((desk) => desk.positions[code]);
    const day = useDesk((desk) => desk.days[code]);
    const levels = useLevels((state) => state.list);
    const isFront = useChoices((choices) => choices.code === code);
    const chips = useChips(code);
    const marks = useFillMarks(code);
    const modifiers = useModifiers();
    const canvas = useRef<HTMLCanvasElement>(null);
    const colours = useColours(canvas);
    const area = useRef<HTMLDivElement>(null);
    const [room, setRoom] = useState({ width: 0, height: 0 });
    const [back, setBack] = useState(0);
    const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null);
    const [held, setHeld] = useState<{ low: number; high: number } | null>(null);
    const pulled = useRef<{ x: number; back: number } | null>(null);

    useEffect(() => {
        const element = area.current;
        if (element === null) return;
        const observer = new ResizeObserver(() =>
            setRoom({ width: Math.max(50, element.clientWidth - RIGHT), height: element.clientHeight }),
        );
        observer.observe(element);
        return () => observer.disconnect();
    }, []);

    const last = book?.last?.price ?? null;
    const left = Math.min(NAMES_PX, Math.round(room.width * NAMES_PART));
    const place = { width: room.width, left, pitch, back: Math.min(back, Math.max(0, bars.length - 10)) };
    const range = useMemo(
        () => rangeOf(shownBars(bars, { width: room.width, left, pitch, back }), last),
        [bars, room.width, left, pitch, back, last],
    );
    // The scale stands still under the pointer, as the ladder does.
    const field: Field = { ...place, ...(held ?? range), height: room.height };
    const scale = `${code} ${field.low} ${field.high} ${field.height}`;
    const [settled, setSettled] = useState('');
    useEffect(() => {
        const timer = window.setTimeout(() => setSettled(scale), SETTLE_MS);
        return () => window.clearTimeout(timer);
    }, [scale]);

    const tickAt = (event: PointerEvent<HTMLElement>): number | null => {
        const box = area.current?.getBoundingClientRect();
        return box && room.height > 0 ? tickOf(field, event.clientY - box.top) : null;
    };
    const { drag, grab, grabPosition, moveTo, letGo } = useDrag(contract, tickAt);
    const mark = useMark(contract, tickAt);
    const pixels = room.height / (field.high - field.low);
    const laneAt = (x: number): Spot['side'] | null =>
        x < room.width ? null : x < room.width + LANE ? 'buy' : x > room.width + LANE + AXIS ? 'sell' : null;
    const lane = pointer && laneAt(pointer.x);
    const at = pointer === null || room.height === 0 ? null : tickOf(field, pointer.y);
    const spot = useMemo<Spot | null>(
        () => (lane !== null && at !== null && drag === null ? { tick: at, side: lane, byKeys: false } : null),
        [lane, at, drag],
    );
    const { ghost, words, moves, press, says } = usePlacing(contract, spot, modifiers, {
        isSettled: settled === scale,
        isPrecise: pixels >= PRECISE_PX,
        takesPresses: isFront || own !== null,
        own,
    });

    const bands = levels
        .filter((level) => level.contract === code && level.high_level >= field.low && level.low_level <= field.high)
        .map((level) => ({ level, top: Math.max(0, yOf(field, level.high_level + 0.5)) }));

    const names: Name[] = [
        ...bands.map(({ level, top }) => ({ id: `level-${level.id}`, words: level.name || levelWords(level), y: top })),
        ...(day?.average ? [{ id: 'average', words: `VWAP ${day.average.words}`, y: yOf(field, day.average.level) }] : []),
        ...(day?.settlement == null ? [] : [{ id: 'settled', words: 'settled', y: yOf(field, day.settlement) }]),
    ].filter(({ y }) => y >= 0 && y <= room.height);

    // biome-ignore lint/correctness/useExhaustiveDependencies: `scale` and `place` stand for the field
    useEffect(() => {
        const context = colours === null || room.height === 0 ? null : surface(canvas.current, room.width, room.height);
        if (context === null || colours === null) return;
        const across = (tick: number, dashes: number[]) => {
            const y = Math.round(yOf(field, tick)) + 0.5;
            context.strokeStyle = colours.plain;
            context.setLineDash(dashes);
            context.beginPath();
            context.moveTo(0, y);
            context.lineTo(room.width, y);
            context.stroke();
            context.setLineDash([]);
        };
        if (day?.average) across(day.average.level, [2, 3]);
        if (day?.settlement != null) across(day.settlement, [6, 4]);
        drawBars(context, bars, field, colours.exit, colours.strong);
        drawFillMarks(
            context,
            colours,
            marks,
            (at) => xOf(bars, field, at),
            (level) => yOf(field, level),
        );
    }, [bars, scale, place.back, pitch, room, colours, day, contract, marks]);

    const under = at !== null && pointer !== null && pointer.x < room.width ? barAt(bars, field, pointer.x) : null;
    const open = position && position.quantity !== 0 ? position : null;
    const isIn = (tick: number) => tick >= field.low && tick <= field.high;
    const cancel = (chip: ChipData) => takeAway(chip, onCancel);
    const release = useRelease();
    const touch = useTouch({
        code,
        spot,
        // It has been pointed there already, see below.
        point: () => setHeld(range),
        leave: () => {
            setHeld(null);
            setPointer(null);
        },
        forget: release.forget,
    });
    /** The finger is down on the price that was said, and moves it no more. */
    const isFirm = useRef(false);
    const placeOf = (event: PointerEvent<HTMLElement>) => {
        const box = event.currentTarget.getBoundingClientRect();
        const [side, tick] = [laneAt(event.clientX - box.left), tickAt(event)];
        if (event.pointerType === 'touch' && spot?.side === side && Math.abs((pointer?.y ?? 0) - (event.clientY - box.top)) <= FINGER_PX)
            return spot;
        return side && tick !== null ? { side, tick, byKeys: false } : null;
    };
    const pointTo = (event: PointerEvent<HTMLElement>) => {
        const box = event.currentTarget.getBoundingClientRect();
        setPointer({ x: event.clientX - box.left, y: event.clientY - box.top });
    };
    const dragged = drag === null ? null : dragNote(drag, drag.to, open, contract);

    return (
        <section className="relative flex h-full min-h-0 flex-col bg-paper" data-part="bars" aria-label={WORDS.barsOf(code)}>
            <BarsHead
                pin={pin}
                found={found}
                says={
                    under
                        ? WORDS.barSpoken(
                              new Date(under[0] ?? 0).toISOString().slice(11, 19),
                              writePrice(contract, under[1] ?? 0),
                              writePrice(contract, under[2] ?? 0),
                              writePrice(contract, under[3] ?? 0),
                              writePrice(contract, under[4] ?? 0),
                              under[5] ?? 0,
                          )
                        : ghost
                          ? (words?.words ?? says)
                          : moves || WORDS.whichSide
                }
                toNow={back > 0 ? () => setBack(0) : null}
            />
            {touch.asks && <TouchMenu close={touch.answered} />}
            {/* biome-ignore lint/a11y/noStaticElementInteractions: the ladder and its keys do all of it too */}
            <div
                className="bars-field"
                data-part="bars-field"
                ref={area}
                data-settled={settled === scale}
                onContextMenu={(event) => event.preventDefault()}
                onPointerEnter={() => setHeld(range)}
                onPointerDownCapture={() => own && bringToFront(own.id)}
                onPointerLeave={(event) => {
                    // A finger that is let go leaves, and what it points at is said until its next touch.
                    if (event.pointerType === 'touch') return;
                    setHeld(null);
                    setPointer(null);
                }}
                onPointerMove={(event) => {
                    mark.onPointerMove(event);
                    if (isFirm.current) return;
                    if (pulled.current) setBack(Math.max(0, Math.round(pulled.current.back + (event.clientX - pulled.current.x) / pitch)));
                    if (moveTo(event)) setPointer(null);
                    else pointTo(event);
                }}
                onPointerDown={(event) => {
                    mark.onPointerDown(event);
                    if (event.button !== 0) return;
                    chooseOrder(null);
                    if (open && (event.target as HTMLElement).closest('[data-average]')) return grabPosition(open, event);
                    const x = event.clientX - event.currentTarget.getBoundingClientRect().left;
                    if (x < room.width) pulled.current = { x: event.clientX, back };
                    const at = placeOf(event);
                    if (event.pointerType === 'touch' && at && touch.down(event, at)) return pointTo(event);
                    isFirm.current = event.pointerType === 'touch' && at !== null;
                    const act = press(at, event.timeStamp);
                    release.press(
                        event,
                        at ? `${at.side} ${at.tick}` : '',
                        act &&
                            (() => {
                                act();
                                useTouchModifiers.setState({ modifiers: null });
                            }),
                    );
                }}
                onPointerCancel={() => {
                    mark.onPointerCancel();
                    pulled.current = null;
                    isFirm.current = false;
                }}
                onPointerUp={(event) => {
                    mark.onPointerUp(event);
                    pulled.current = null;
                    const at = placeOf(event);
                    release.letGo(event, at ? `${at.side} ${at.tick}` : '');
                    isFirm.current = false;
                    letGo(event);
                }}
                onWheel={(event: WheelEvent) => {
                    const now = PITCHES.findIndex((one) => one >= pitch);
                    if (event.deltaY !== 0)
                        setBars({ width: PITCHES[Math.max(0, Math.min(PITCHES.length - 1, now + (event.deltaY < 0 ? 1 : -1)))] ?? pitch });
                }}
            >
                <canvas
                    ref={canvas}
                    style={{ width: room.width, height: room.height }}
                    role="img"
                    aria-label={WORDS.barsSpoken(bars.length, code, sizeWords(by, size))}
                />
                {bands.map(({ level, top }) => (
                    <Band
                        key={level.id}
                        tone={level.tone}
                        style={{ top, height: Math.max(2, Math.min(room.height, yOf(field, level.low_level - 0.5)) - top), right: RIGHT }}
                    />
                ))}
                <Names names={names} width={left} height={room.height} />
                {mark.marking && (
                    <Band
                        tone={null}
                        style={{
                            top: yOf(field, Math.max(mark.marking.from, mark.marking.to) + 0.5),
                            height: (Math.abs(mark.marking.from - mark.marking.to) + 1) * pixels,
                        }}
                    />
                )}
                <div className="bars-lane" data-part="bars-lane" data-side="buy" style={{ left: room.width }} />
                <BarsAxis contract={contract} field={field} last={last} average={open?.average_level ?? null} at={at} />
                <div className="bars-lane" data-part="bars-lane" data-side="sell" style={{ left: room.width + LANE + AXIS }} />
                {open?.average_level != null && isIn(open.average_level) && (
                    <i className="bars-across average" style={{ top: yOf(field, open.average_level), width: room.width }} />
                )}
                {[...chips].map(([where, text]) => {
                    const [side = '', tick = '0'] = where.split(' ');
                    return (
                        isIn(Number(tick)) && (
                            <Standing key={where} side={side} y={yOf(field, Number(tick))} width={room.width}>
                                {(JSON.parse(text) as ChipData[]).map((chip, nth) => (
                                    <Chip key={`${chip.role} ${chip.id}`} chip={chip} narrow={nth > 0} onGrab={grab} onCancel={cancel} />
                                ))}
                            </Standing>
                        )
                    );
                })}
                {(dragged ?? (ghost && spot)) && (
                    <Standing side={dragged?.side ?? ghost?.side ?? 'buy'} y={yOf(field, drag?.to ?? ghost?.tick ?? 0)} width={room.width}>
                        <Note kind={!dragged && words?.refused ? 'refused' : 'ghost'} text={dragged?.text ?? says} />
                    </Standing>
                )}
                {pointer !== null && (
                    <>
                        <i className="bars-across" style={{ top: pointer.y, width: room.width }} />
                        {pointer.x < room.width && <i className="bars-down" style={{ left: pointer.x }} />}
                    </>
                )}
            </div>
        </section>
    );
}
