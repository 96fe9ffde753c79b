import { type PointerEvent, useRef } from 'react';
import { useSettings } from '@/model/settings';
import { onPointerGone } from '@/ui/pointerGone';

/** A hand trembles by less than this, in pixels. */
const TREMBLE_PX = 4;

interface Down {
    /** of the pointer: another finger's letting go is not this one's */
    pointer: number;
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
            const here = { pointer: event.pointerId, key, x: event.clientX, y: event.clientY, act };
            down.current = here;
            const forget = () => {
                if (down.current === here) down.current = null;
            };
            // Let go elsewhere it is nothing; the place itself hears of it first. A pointer that the system takes away lets go of nothing.
            onPointerGone(event, () => window.setTimeout(forget, 0), forget);
        },
        /** what is down is not to be done */
        forget: (): void => {
            down.current = null;
        },
        letGo: (event: PointerEvent<HTMLElement>, key: string): void => {
            const was = down.current;
            if (was === null || was.pointer !== event.pointerId) return;
            down.current = null;
            const isStill = Math.abs(event.clientX - was.x) < TREMBLE_PX && Math.abs(event.clientY - was.y) < TREMBLE_PX;
            if (isStill || key === was.key) was.act();
        },
    };
}
