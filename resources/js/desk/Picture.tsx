import { memo, useEffect, useRef } from 'react';
import type { Contract, Position } from '@/api/client';
import { useTheme } from '@/shell/theme';
import { printsOf } from '@/stream/prints';
import { useDesk } from '@/stream/store';
import { RUNG_HEIGHT } from './ladder-view';

interface Props {
    contract: Contract;
    position: Position | null;
    top: number | null;
    rows: number;
}

/** How far back the picture goes. */
const SPAN_MS = 3 * 60 * 1000;
/** Lots at which a trade's stroke is as long as it gets. */
const LONG = 40;

/**
 * What led to the present, on the ladder's own price axis: trades as strokes (filled above the middle of the row
 * bought, hollow below sold, longer is bigger), the path of each live stop, the average, the trader's fills.
 */
export const Picture = memo(function Picture({ contract, position, top, rows }: Props) {
    const canvas = useRef<HTMLCanvasElement>(null);
    const theme = useTheme((state) => state.theme);
    const orders = useDesk((desk) => desk.orders);
    const fills = useDesk((desk) => desk.fills);
    const clock = useDesk((desk) => desk.clock);
    // Drawn at each heartbeat, twice a second: three minutes move by less than a pixel in between.
    // biome-ignore lint/correctness/useExhaustiveDependencies: the colours are read from the theme's styles
    useEffect(() => {
        // With the next frame, so that own orders are not held up by it.
        const frame = requestAnimationFrame(() => {
            const element = canvas.current;
            const context = element?.getContext('2d');
            if (!element || !context || top === null || clock === null) return;
            const width = element.clientWidth;
            const scale = window.devicePixelRatio;
            element.width = width * scale;
            element.height = rows * RUNG_HEIGHT * scale;
            context.scale(scale, scale);
            const style = getComputedStyle(element);
            const ink = style.color;
            const exit = style.borderTopColor;
            const now = clock.at + performance.now() - clock.heard;
            const x = (at: number) => width - ((now - at) / SPAN_MS) * width;
            const y = (tick: number) => (top - tick + 0.5) * RUNG_HEIGHT;

            context.fillStyle = ink;
            context.strokeStyle = ink;
            context.lineWidth = 1;
            const prints = printsOf(contract.code);
            for (let at = prints.length - 1; at >= 0; at--) {
                const print = prints[at];
                if (!print || print.at < now - SPAN_MS) break;
                const long = 2 + (Math.min(print.size, LONG) / LONG) * 12;
                if (print.aggressor === 'buy') context.fillRect(x(print.at) - long, y(print.price) - 5, long, 3);
                else context.strokeRect(x(print.at) - long + 0.5, y(print.price) + 2.5, long - 1, 2);
            }

            if (position?.average_level != null) {
                context.setLineDash([4, 3]);
                line(context, 0, width, y(position.average_level));
                context.setLineDash([]);
            }
            context.strokeStyle = exit;
            for (const order of orders.values()) {
                if (order.contract !== contract.code || order.level === null) continue;
                if (order.role === 'target') {
                    context.lineWidth = 1;
                    line(context, x(Date.parse(order.created_at)), width, y(order.level));
                }
                if (order.role === 'stop') {
                    context.lineWidth = 2;
                    context.beginPath();
                    order.path.forEach((stood, step) => {
                        const from = Math.max(-2, x(Date.parse(stood.time)));
                        if (step === 0) context.moveTo(from, y(stood.level));
                        else context.lineTo(from, y(order.path[step - 1]?.level ?? stood.level));
                        context.lineTo(from, y(stood.level));
                    });
                    context.lineTo(width, y(order.path.at(-1)?.level ?? order.level));
                    context.stroke();
                }
            }
            context.fillStyle = ink;
            for (const fill of fills) {
                const at = Date.parse(fill.time);
                if (fill.contract !== contract.code || at < now - SPAN_MS) continue;
                context.beginPath();
                context.arc(x(at), y(fill.level), 4, 0, Math.PI * 2);
                context.fill();
            }
        });
        return () => cancelAnimationFrame(frame);
    }, [contract, position, top, rows, theme, orders, fills, clock]);
    return (
        <canvas
            ref={canvas}
            className="picture"
            style={{ height: rows * RUNG_HEIGHT }}
            role="img"
            aria-label={`Trades of the last three minutes in ${contract.code}, with the path of your stops`}
        />
    );
});

function line(context: CanvasRenderingContext2D, from: number, to: number, at: number): void {
    context.beginPath();
    context.moveTo(Math.max(0, from), Math.round(at) + 0.5);
    context.lineTo(to, Math.round(at) + 0.5);
    context.stroke();
}
