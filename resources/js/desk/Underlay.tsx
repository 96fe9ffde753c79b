import { useEffect, useRef } from 'react';
import { useTheme } from '@/shell/theme';
import type { Book } from '@/stream/store';
import { RUNG_HEIGHT } from './ladder-view';

interface Props {
    book: Book | undefined;
    top: number | null;
    rows: number;
}

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
        const width = element.clientWidth;
        const scale = window.devicePixelRatio;
        element.width = width * scale;
        element.height = rows * RUNG_HEIGHT * scale;
        context.scale(scale, scale);
        context.fillStyle = getComputedStyle(element).color;
        for (let row = 0; row < rows; row++) {
            const tick = top - row;
            const lots = (book.bids.get(tick) ?? book.asks.get(tick))?.[0] ?? 0;
            if (lots > 0) {
                const bar = Math.max(1, Math.round((Math.min(lots, FULL) / FULL) * (width - 2)));
                context.fillRect(width - bar, row * RUNG_HEIGHT + 3, bar, RUNG_HEIGHT - 6);
            }
        }
    }, [book, top, rows, theme]);
    return <canvas ref={canvas} className="underlay" style={{ height: rows * RUNG_HEIGHT }} />;
}
