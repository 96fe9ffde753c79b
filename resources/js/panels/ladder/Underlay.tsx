import clsx from 'clsx';
import { useEffect, useRef } from 'react';
import { RUNG_HEIGHT } from '@/model/rungHeight';
import type { Book, Day } from '@/stream/store';
import { surface, useColours } from '@/ui/useColours';

interface Shown {
    top: number | null;
    rows: number;
    /** ticks that a rung stands for */
    zoom: number;
}

/** The canvas reads its colours here. */
const UNDER = 'absolute top-0 text-depth outline-resting';

/** Widths of the depth lane and of the last column, as ladder.css has them; asking the page 20 times a second would cost a layout each time. */
const DEPTH_WIDTH = 92;
const TRADED_WIDTH = 112;
/** As far as its bars reach beside the P/L of an open position: ten figures of it stand clear of them, where they would be hard to read. */
const BESIDE_PNL = 26;

/** Lots at which a bar is full before the market has shown a habit; larger ones are cut there. */
const FULL_AT_FIRST = 120;

/** A canvas of one bar a rung; `bar` says how long, from 0 to 1, which is `reach` pixels. Longer than 1 is cut there. */
function useBars(
    width: number,
    reach: number,
    { top, rows, zoom }: Shown,
    bar: (tick: number) => number,
    stands: (tick: number) => boolean,
    fromRight: boolean,
    data: unknown,
) {
    const canvas = useRef<HTMLCanvasElement>(null);
    const colours = useColours(canvas);
    // biome-ignore lint/correctness/useExhaustiveDependencies: the lengths are made from the data
    useEffect(() => {
        const context = top === null || colours === null ? null : surface(canvas.current, width, rows * RUNG_HEIGHT);
        if (context === null || colours === null || top === null) return;
        for (let row = 0; row < rows; row++) {
            let long = 0;
            let strongest = false;
            for (let tick = top - row * zoom; tick > top - (row + 1) * zoom; tick--) {
                long += bar(tick);
                strongest ||= stands(tick);
            }
            if (long <= 0) continue;
            const length = Math.max(1, Math.round(Math.min(1, long) * (reach - 2)));
            context.fillStyle = strongest ? colours.strong : colours.plain;
            context.fillRect(fromRight ? width - length : 0, row * RUNG_HEIGHT + 3, length, RUNG_HEIGHT - 6);
        }
    }, [data, top, rows, zoom, colours, width, reach]);
    return canvas;
}

interface Depth extends Shown {
    book: Book | undefined;
    full: number | undefined;
    unusual: number | undefined;
}

/** Below the rungs: lots resting at each price as bars in the depth lane, unusual ones darker. */
export function Underlay({ book, full, unusual, top, rows, zoom }: Depth) {
    const lots = (tick: number) => (book?.bids.get(tick) ?? book?.asks.get(tick))?.[0] ?? 0;
    const canvas = useBars(
        DEPTH_WIDTH,
        DEPTH_WIDTH,
        { top, rows, zoom },
        (tick) => lots(tick) / (full || FULL_AT_FIRST),
        (tick) => (unusual ?? 0) > 0 && lots(tick) >= (unusual ?? 0),
        true,
        book,
    );
    return (
        <canvas
            ref={canvas}
            className={clsx(UNDER, 'left-0 w-92 @max-[560px]/slot:w-66')}
            data-part="underlay"
            style={{ height: rows * RUNG_HEIGHT }}
        />
    );
}

/** Below the rungs: lots traded at each price today, as bars of the last column. */
export function TradedUnderlay({ day, besidePnl, top, rows, zoom }: Shown & { day: Day | undefined; besidePnl: boolean }) {
    const traded = (tick: number) => {
        const [bought, sold] = day?.traded.get(tick) ?? [0, 0];
        return bought + sold;
    };
    const canvas = useBars(
        TRADED_WIDTH,
        besidePnl ? BESIDE_PNL : TRADED_WIDTH,
        { top, rows, zoom },
        (tick) => traded(tick) / Math.max(1, day?.most ?? 1),
        (tick) => traded(tick) === day?.most,
        false,
        day,
    );
    return (
        <canvas
            ref={canvas}
            className={clsx(UNDER, 'right-0 w-112 @max-[560px]/slot:w-82 @max-[430px]/slot:hidden')}
            data-part="underlay-volume"
            style={{ height: rows * RUNG_HEIGHT }}
        />
    );
}
