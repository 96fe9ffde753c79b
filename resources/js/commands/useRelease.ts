import { type PointerEvent, useRef } from 'react';
import { useSettings } from '@/model/settings';

/** A hand trembles by less than this, in pixels. */
const TREMBLE_PX = 4;

interface Down {
    key: string;
    x: number;
    y: number;
    act: () => void;
}

/**
 * A press acts where it is let go, on the place that it went down on; slid off it is nothing. What it does was settled
 * as it went down. By setting it acts at once.
 */
export function useRelease() {
    const down = useRef<Down | null>(null);
    return {
        /** @param key names the place; @param act null where there is nothing to do */
        press: (event: PointerEvent<HTMLElement>, key: string, act: (() => void) | null): void => {
            down.current = null;
            if (act === null) return;
            if (useSettings.getState().entry.act_on_press) return act();
            const here = { key, x: event.clientX, y: event.clientY, act };
            down.current = here;
            // Let go elsewhere it is nothing; the place itself hears of it first.
            const forget = () =>
                window.setTimeout(() => {
                    if (down.current === here) down.current = null;
                }, 0);
            event.currentTarget.ownerDocument.defaultView?.addEventListener('pointerup', forget, { once: true });
        },
        letGo: (event: PointerEvent<HTMLElement>, key: string): void => {
            const was = down.current;
            down.current = null;
            if (was === null) return;
            const isStill = Math.abs(event.clientX - was.x) < TREMBLE_PX && Math.abs(event.clientY - was.y) < TREMBLE_PX;
            if (isStill || key === was.key) was.act();
        },
    };
}
