import type { Bars } from '@/api/client';

/** One bar as the engine sends it: ms since 1970 UTC, open, high, low, close in ticks, lots. */
type Bar = Bars['bars'][number];

export interface Field {
    width: number;
    /** as far as names stand at the left, where no bar is drawn */
    left: number;
    height: number;
    /** the newest bar that is shown, counted from the end; 0 is the last one */
    back: number;
    /** pixels from one bar to the next */
    pitch: number;
    low: number;
    high: number;
}

export const yOf = (field: Field, tick: number): number => ((field.high - tick) / (field.high - field.low)) * field.height;

export const tickOf = (field: Field, y: number): number => Math.round(field.high - (y / field.height) * (field.high - field.low));

export const shownBars = (bars: Bar[], { width, left, pitch, back }: Pick<Field, 'width' | 'left' | 'pitch' | 'back'>): Bar[] =>
    bars.slice(Math.max(0, bars.length - back - Math.floor((width - left) / pitch)), bars.length - back);

/** The bar under a pixel; null beyond the bars. */
export function barAt(bars: Bar[], field: Field, x: number): Bar | null {
    const shown = shownBars(bars, field);
    return shown[shown.length - 1 - Math.floor((field.width - x) / field.pitch)] ?? null;
}

/** The middle of the bar in which something was, in pixels; null where that bar is not shown. */
export function xOf(bars: Bar[], field: Field, at: number): number | null {
    const shown = shownBars(bars, field);
    const after = shown.findIndex((bar) => (bar[0] ?? 0) > at);
    const nth = (after < 0 ? shown.length : after) - 1;
    // What is after the bars that are shown is in the last one only where that is the newest.
    return nth < 0 || (after < 0 && field.back > 0) ? null : field.width - (shown.length - nth - 0.5) * field.pitch;
}

/** Ticks from the bottom of the field to its top: what is shown, with some room. */
export function rangeOf(bars: Bar[], last: number | null): { low: number; high: number } {
    let low = last ?? Number.POSITIVE_INFINITY;
    let high = last ?? Number.NEGATIVE_INFINITY;
    for (const [, , top = 0, bottom = 0] of bars) {
        low = Math.min(low, bottom);
        high = Math.max(high, top);
    }
    if (low > high) return { low: 0, high: 10 };
    const room = Math.max(4, Math.ceil((high - low) * 0.12));
    return { low: low - room, high: high + room };
}

/** Bars whose close is at or above their open are hollow, the others filled; lots at the bottom. */
export function drawBars(context: CanvasRenderingContext2D, bars: Bar[], field: Field, ink: string, soft: string): void {
    const shown = shownBars(bars, field);
    const body = Math.max(1, Math.floor(field.pitch * 0.65));
    const most = Math.max(1, ...shown.map((bar) => bar[5] ?? 0));
    context.lineWidth = 1;
    shown.forEach(([, open = 0, high = 0, low = 0, close = 0, lots = 0], at) => {
        const x = Math.round(field.width - (shown.length - at - 0.5) * field.pitch);
        const [top, bottom] = [Math.round(yOf(field, Math.max(open, close))), Math.round(yOf(field, Math.min(open, close)))];
        context.fillStyle = soft;
        const column = Math.max(1, (lots / most) * field.height * 0.14);
        context.fillRect(x - body / 2, field.height - column, body, column);
        context.strokeStyle = context.fillStyle = ink;
        context.beginPath();
        context.moveTo(x + 0.5, yOf(field, high));
        context.lineTo(x + 0.5, top);
        context.moveTo(x + 0.5, bottom);
        context.lineTo(x + 0.5, yOf(field, low));
        context.stroke();
        if (close >= open && body > 2)
            context.strokeRect(Math.round(x - body / 2) + 0.5, top + 0.5, body - 1, Math.max(1, bottom - top - 1));
        else context.fillRect(Math.round(x - body / 2), top, body, Math.max(1, bottom - top));
    });
}
