import clsx from 'clsx';
import { memo, type PointerEvent, useEffect, useRef, useState, type WheelEvent } from 'react';
import type { Contract, Order, Position } from '@/api/client';
import { drawFillMarks, useFillMarks } from '@/model/fillMarks';
import { scrollBack, spanWords, stepFor, useHistoryView, zoomTime } from '@/model/historyView';
import { writePrice } from '@/model/prices';
import { RUNG_HEIGHT } from '@/model/rungHeight';
import { type KeptColumn, tradedAt } from '@/stream/columns';
import { useDesk, useMarket } from '@/stream/store';
import { type Colours, surface, useColours } from '@/ui/useColours';
import { WORDS } from './words';

interface Props {
    contract: Contract;
    position: Position | null;
    top: number | null;
    rows: number;
    /** ticks that a rung stands for */
    zoom: number;
}

/** Lots at which a trade's stroke is as long as it gets, at least; more where trades are larger. */
const LONG = 40;
/** How many times the usual lots that is. */
const USUAL = 3;
/** A stroke's greatest length; where a column is narrower strokes would cover their neighbours, so they get higher instead. */
const LONGEST_PX = 14;
const HIGHEST_PX = 6;
/** Where the market has shown no habit yet, a row is full at this many lots. */
const FULL_AT_FIRST = 100;

interface Frame {
    context: CanvasRenderingContext2D;
    width: number;
    rows: number;
    top: number;
    zoom: number;
    /** ms since 1970 UTC at the right edge */
    end: number;
    span: number;
    x: (at: number) => number;
    y: (tick: number) => number;
}

/**
 * Depth history on the ladder's own price axis: lots that rested at each price through time as the height of the ink
 * within the row, trades as strokes (filled above the middle of the row bought, hollow below sold, longer is bigger),
 * the path of each live stop, targets, the average, the trader's fills. Drawn anew with each column of the history.
 */
export const Picture = memo(function Picture({ contract, position, top, rows, zoom }: Props) {
    const { code } = contract;
    const market = useMarket();
    const canvas = useRef<HTMLCanvasElement>(null);
    const colours = useColours(canvas);
    // Asked of the page only when it changes.
    const room = useRef(0);
    const [resized, setResized] = useState(0);
    useEffect(() => {
        const element = canvas.current;
        if (!element) return;
        const observer = new ResizeObserver(() => {
            room.current = element.clientWidth;
            setResized(room.current);
        });
        observer.observe(element);
        return () => observer.disconnect();
    }, []);
    const orders = useDesk((desk) => desk.orders);
    const ended = useDesk((desk) => desk.ended);
    const marks = useFillMarks(code);
    const depth = useDesk((desk) => desk.depth[code]);
    // Where the market stands there are no new columns, but one's own stops may move.
    const clock = useDesk((desk) => desk.clock?.at ?? 0);
    const epoch = useDesk((desk) => desk.epoch);
    const fresh = useDesk((desk) => desk.fresh);
    const { span, back, full, least } = useHistoryView();
    const [there, setThere] = useState<{ left: number; down: number } | null>(null);
    const [fetches, setFetches] = useState(0);
    const grabbed = useRef<{ x: number; back: number } | null>(null);
    const step = stepFor(span);
    const now = Math.max(depth?.at ?? 0, clock) || null;
    const end = now === null ? null : now - back;

    // What this page has not heard itself: at its opening, after a zoom or a look back, and when the tab was hidden.
    const known = now !== null;
    const gaps = depth?.gaps[step] ?? 0;
    const lookedBack = Math.floor(back / (span / 2));
    // biome-ignore lint/correctness/useExhaustiveDependencies: a new epoch, a gap, or a tab that comes back, asks again
    useEffect(() => {
        const { depth: told, clock: heard } = market.useDesk.getState();
        const at = Math.max(told[code]?.at ?? 0, heard?.at ?? 0);
        if (!known || !fresh) return;
        const given = new AbortController();
        const until = at - lookedBack * (span / 2);
        market.columns
            .fetch(code, step, until - 2 * span, until, given.signal)
            .then((came) => came && setFetches((count) => count + 1))
            .catch(() => undefined);
        return () => given.abort();
    }, [market, code, step, span, lookedBack, known, fresh, epoch, gaps]);

    // biome-ignore lint/correctness/useExhaustiveDependencies: fetched columns are drawn when they come
    useEffect(() => {
        // With the next frame, so that own orders are not held up by it.
        const stage = canvas.current?.ownerDocument.defaultView ?? window;
        const frame = stage.requestAnimationFrame(() => {
            const width = room.current;
            const context = colours === null || width === 0 ? null : surface(canvas.current, width, rows * RUNG_HEIGHT);
            if (context === null || colours === null || top === null || end === null) return;
            const on: Frame = {
                context,
                width,
                rows,
                top,
                zoom,
                end,
                span,
                x: (at) => width - ((end - at) / span) * width,
                y: (tick) => ((top - tick + 0.5) / zoom) * RUNG_HEIGHT,
            };
            const columns = market.columns.of(code, step).filter((column) => column.at > end - span - step && column.at <= end + step);
            context.fillStyle = colours.strong;
            skyline(on, columns, step, full ?? (depth?.full || FULL_AT_FIRST), Math.max(1, least));
            context.fillStyle = context.strokeStyle = colours.plain;
            context.lineWidth = 1;
            strokes(on, columns, step);
            past(on, colours, ended, code);
            paths(on, colours, orders, position, code);
            drawFillMarks(context, colours, marks, (at) => (at < end - span || at > end ? null : on.x(at)), on.y);
        });
        return () => stage.cancelAnimationFrame(frame);
    }, [
        contract,
        position,
        top,
        rows,
        zoom,
        colours,
        resized,
        orders,
        ended,
        marks,
        depth,
        clock,
        span,
        back,
        full,
        least,
        fetches,
        market,
    ]);

    const look = (event: PointerEvent<HTMLCanvasElement>) => {
        const box = event.currentTarget.getBoundingClientRect();
        if (grabbed.current) {
            scrollBack(grabbed.current.back + ((event.clientX - grabbed.current.x) / box.width) * span);
            return setThere(null);
        }
        setThere({ left: event.clientX - box.left, down: event.clientY - box.top });
    };
    // The picture moves on below a pointer that rests: what is said is what lies there now.
    const wordsThere = (): string => {
        if (there === null || top === null || end === null) return '';
        const tick = top - Math.floor((there.down / RUNG_HEIGHT) * zoom);
        const at = end - (1 - there.left / room.current) * span;
        const column = market.columns.of(code, step).find((candidate) => candidate.at >= at);
        return `${writePrice(contract, tick)} · ${new Date(at).toISOString().slice(11, 19)}\n${column ? wordsFor(column, tick) : 'not known'}`;
    };

    return (
        <div className={clsx('relative min-w-0 overflow-hidden @max-[640px]/slot:hidden', back > 0 ? 'bg-shade' : 'bg-paper')}>
            <canvas
                ref={canvas}
                className="picture block w-full cursor-crosshair touch-none"
                data-part="picture"
                style={{ height: rows * RUNG_HEIGHT }}
                role="img"
                aria-label={WORDS.picture(code, spanWords(span))}
                onPointerMove={look}
                onPointerLeave={() => setThere(null)}
                onPointerDown={(event) => {
                    if (event.button !== 0) return;
                    grabbed.current = { x: event.clientX, back };
                    event.currentTarget.setPointerCapture(event.pointerId);
                }}
                onPointerCancel={() => {
                    grabbed.current = null;
                }}
                onPointerUp={() => {
                    grabbed.current = null;
                }}
                onDoubleClick={() => scrollBack(0)}
                onWheel={(event: WheelEvent) => event.deltaY !== 0 && zoomTime(event.deltaY > 0 ? 1 : -1)}
            />
            {there && (
                <p
                    className="pointer-events-none absolute w-166 rounded-field border border-rule bg-raised px-6 py-2 font-mono text-tiny leading-15 whitespace-pre-wrap"
                    style={{ left: Math.max(4, Math.min(there.left, room.current - 170)), [there.down > 60 ? 'top' : 'bottom']: 6 }}
                    data-field="there"
                >
                    {wordsThere()}
                </p>
            )}
        </div>
    );
});

function wordsFor(column: KeptColumn, tick: number): string {
    const lots = column.lots[tick - column.from] ?? 0;
    return WORDS.atRow(lots, ...tradedAt(column, tick));
}

/** Each row's lots through time; neighbouring columns of one height are one rectangle. */
function skyline({ context, top, rows, zoom, x, width }: Frame, columns: KeptColumn[], step: number, full: number, least: number): void {
    const most = RUNG_HEIGHT - 3;
    for (let row = 0; row < rows; row++) {
        const highest = top - row * zoom;
        const floor = (row + 1) * RUNG_HEIGHT - 1;
        let from = 0;
        let until = 0;
        let height = 0;
        for (const column of columns) {
            let lots = 0;
            for (let tick = highest; tick > highest - zoom; tick--) lots += column.lots[tick - column.from] ?? 0;
            const high = lots < least ? 0 : Math.max(1, Math.round((Math.min(lots, full) / full) * most));
            const begins = x(column.at - step);
            // After a gap (the engine was away) a run does not go on.
            if (high !== height || begins - until > 1) {
                if (height > 0) context.fillRect(from, floor - height, until - from, height);
                from = begins;
                height = high;
            }
            until = x(column.at);
        }
        if (height > 0) context.fillRect(from, floor - height, Math.min(width, until) - from, height);
    }
}

function strokes({ context, x, y, top, rows, zoom, width, span }: Frame, columns: KeptColumn[], step: number): void {
    const shown: { at: number; y: number; bought: number; sold: number }[] = [];
    for (const { at, trades } of columns)
        for (let nth = 0; nth < trades.length; nth += 3) {
            const tick = trades[nth] ?? 0;
            if (tick <= top && tick > top - rows * zoom)
                shown.push({ at: x(at), y: y(tick), bought: trades[nth + 1] ?? 0, sold: trades[nth + 2] ?? 0 });
        }
    const usual = shown.reduce((sum, { bought, sold }) => sum + bought + sold, 0) / Math.max(1, shown.length);
    const share = (lots: number) => Math.min(1, lots / Math.max(LONG, USUAL * usual));
    const column = (width * step) / span;
    const dense = column < LONGEST_PX / 2;
    for (const { at, y: middle, bought, sold } of shown) {
        if (dense) {
            const wide = Math.max(1, column);
            const high = (lots: number) => 1 + share(lots) * (HIGHEST_PX - 1);
            context.fillRect(at - wide, middle - 1 - high(bought), wide, bought > 0 ? high(bought) : 0);
            context.globalAlpha = 0.55;
            context.fillRect(at - wide, middle + 1, wide, sold > 0 ? high(sold) : 0);
            context.globalAlpha = 1;
            continue;
        }
        const long = (lots: number) => 2 + share(lots) * (LONGEST_PX - 2);
        if (bought > 0) context.fillRect(at - long(bought), middle - 5, long(bought), 3);
        if (sold > 0) context.strokeRect(at - long(sold) + 0.5, middle + 2.5, long(sold) - 1, 2);
    }
}

function paths(
    { context, width, x, y, end }: Frame,
    colours: Colours,
    orders: Map<number, Order>,
    position: Position | null,
    code: string,
): void {
    if (position?.average_level != null) {
        context.strokeStyle = colours.plain;
        context.lineWidth = 1;
        context.setLineDash([4, 3]);
        line(context, 0, width, y(position.average_level));
        context.setLineDash([]);
    }
    for (const order of orders.values()) {
        const born = Date.parse(order.created_at);
        if (order.contract !== code || order.level === null || born > end) continue;
        context.strokeStyle = order.role === 'stop' || order.role === 'target' ? colours.exit : colours.plain;
        if (order.role !== 'stop') {
            context.lineWidth = 1;
            line(context, x(born), width, y(order.level));
            continue;
        }
        context.lineWidth = 2;
        stepped(context, order, x, y, width);
    }
}

/** Where a stop has stood, up to a pixel from the left. */
function stepped(context: CanvasRenderingContext2D, { path }: Order, x: Frame['x'], y: Frame['y'], until: number): void {
    context.beginPath();
    path.forEach((stood, step) => {
        const from = Math.max(-2, x(Date.parse(stood.time)));
        if (step === 0) context.moveTo(from, y(stood.level));
        else context.lineTo(from, y(path[step - 1]?.level ?? stood.level));
        context.lineTo(from, y(stood.level));
    });
    context.lineTo(until, y(path.at(-1)?.level ?? 0));
    context.stroke();
}

/** Stops that are over: thinner than those that stand. */
function past({ context, x, y, end, span }: Frame, colours: Colours, ended: Order[], code: string): void {
    context.strokeStyle = colours.exit;
    context.lineWidth = 1;
    // Between two pixels a thin line would be a blur over both.
    const sharp = (tick: number) => Math.round(y(tick)) + 0.5;
    for (const order of ended) {
        const over = Date.parse(order.ended_at ?? order.created_at);
        if (order.contract === code && over > end - span && Date.parse(order.created_at) < end)
            stepped(context, order, x, sharp, x(Math.min(over, end)));
    }
}

function line(context: CanvasRenderingContext2D, from: number, to: number, at: number): void {
    context.beginPath();
    context.moveTo(Math.max(0, from), Math.round(at) + 0.5);
    context.lineTo(to, Math.round(at) + 0.5);
    context.stroke();
}
