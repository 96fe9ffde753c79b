import { useEffect, useRef } from 'react';
import { useTheme } from '@/shell/theme';
import type { Book } from '@/stream/store';
import { RUNG_HEIGHT } from './ladder-view';

interface Props {
    book: Book | undefined;
    top: number | null;
    rows: number;
}

/** Width of the depth column, as app.css has it; asking the page for it 20 times a second would cost a layout each time. */
const WIDTH = 92;

/** Lots at which a bar is full; larger ones are cut there. */
const FULL = 120;

/** The canvas below the rungs: lots resting at each price as bars in the depth lane. */
export function Underlay({ book, top, rows }: Props) {
    const canvas = useRef<HTMLCanvasElement>(null);
    const theme = useTheme((state) => state.theme);
    // biome-ignore lint/correctness/useExhaustiveDependencies: the colour is read from the theme's styles
    useEffect(() => {
        const element = canvas.current;
        const context = element?.getContext('2d');
        if (!element || !context || !book || top === null) return;
        const scale = window.devicePixelRatio;
        const height = rows * RUNG_HEIGHT;
        // A new size costs a new surface: only where it has changed.
        if (element.width !== WIDTH * scale || element.height !== height * scale) {
            element.width = WIDTH * scale;
            element.height = height * scale;
        }
        context.setTransform(scale, 0, 0, scale, 0, 0);
        context.clearRect(0, 0, WIDTH, height);
        context.fillStyle = getComputedStyle(element).color;
        for (let row = 0; row < rows; row++) {
            const tick = top - row;
            const lots = (book.bids.get(tick) ?? book.asks.get(tick))?.[0] ?? 0;
            if (lots > 0) {
                const bar = Math.max(1, Math.round((Math.min(lots, FULL) / FULL) * (WIDTH - 2)));
                context.fillRect(WIDTH - bar, row * RUNG_HEIGHT + 3, bar, RUNG_HEIGHT - 6);
            }
        }
    }, [book, top, rows, theme]);
    return <canvas ref={canvas} className="underlay" style={{ height: rows * RUNG_HEIGHT }} />;
}
