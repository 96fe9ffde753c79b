import { type RefObject, useEffect, useState } from 'react';
import { useTheme } from './theme';

const dark = window.matchMedia('(prefers-color-scheme: dark)');

export interface Colours {
    plain: string;
    strong: string;
    exit: string;
    own: string;
    font: string;
}

/**
 * The colours that a canvas draws in, as its stylesheet gives them (color, outline, border, column rule). Read when the
 * look changes and not at each drawing: asking for a style makes the page work all of them out.
 */
export function useColours(canvas: RefObject<HTMLCanvasElement | null>): Colours | null {
    const theme = useTheme((state) => state.theme);
    const [colours, setColours] = useState<Colours | null>(null);
    // biome-ignore lint/correctness/useExhaustiveDependencies: another theme has other colours
    useEffect(() => {
        let frame = 0;
        let stage: Document | null = null;
        const read = () => {
            if (!canvas.current) return;
            // A panel is made before it is hung into the page; until then its styles are empty.
            if (!canvas.current.isConnected) {
                frame = requestAnimationFrame(read);
                return;
            }
            if (stage === null) {
                // A window of a panel's own fetches its styles while the panel is already there.
                stage = canvas.current.ownerDocument;
                stage.addEventListener('load', read, true);
            }
            const style = getComputedStyle(canvas.current);
            setColours({
                plain: style.color,
                strong: style.outlineColor,
                exit: style.borderTopColor,
                own: style.columnRuleColor,
                font: style.fontFamily,
            });
        };
        read();
        dark.addEventListener('change', read);
        return () => {
            cancelAnimationFrame(frame);
            stage?.removeEventListener('load', read, true);
            dark.removeEventListener('change', read);
        };
    }, [canvas, theme]);
    return colours;
}

/** The canvas made as large as it is shown, cleared; a new size costs a new surface, so only where it has changed. */
export function surface(canvas: HTMLCanvasElement | null, width: number, height: number): CanvasRenderingContext2D | null {
    const context = canvas?.getContext('2d') ?? null;
    if (!canvas || !context) return null;
    const scale = window.devicePixelRatio;
    if (canvas.width !== Math.round(width * scale) || canvas.height !== Math.round(height * scale)) {
        canvas.width = Math.round(width * scale);
        canvas.height = Math.round(height * scale);
    }
    context.setTransform(scale, 0, 0, scale, 0, 0);
    context.clearRect(0, 0, width, height);
    return context;
}
