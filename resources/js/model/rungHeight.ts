import * as z from 'zod/mini';
import { createKept } from '@/ui/kept';

export const [LEAST_HEIGHT, MAX_HEIGHT] = [16, 36];

/** A finger needs more than a pointer does. */
const useRungHeight = createKept(
    'rung-height',
    { height: z.int().check(z.minimum(LEAST_HEIGHT), z.maximum(MAX_HEIGHT)) },
    { height: window.matchMedia('(pointer: coarse)').matches ? 32 : 18 },
);

/** Pixels from one rung to the next; chosen in the settings, and read once: nothing may move under the pointer. */
export const RUNG_HEIGHT = useRungHeight.getState().height;
document.documentElement.style.setProperty('--rung', `${RUNG_HEIGHT}px`);

/** The desk is drawn anew with it. */
export function setRungHeight(height: number): void {
    useRungHeight.setState({ height });
    location.reload();
}
