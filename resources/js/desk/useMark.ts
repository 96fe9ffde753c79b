import { type PointerEvent, useState } from 'react';
import type { Contract } from '@/api/client';
import { markLevel } from './levels';

const RIGHT = 2;

/** Marks a level with one gesture: the right button pressed on a row, drawn over several for a band, and let go. */
export function useMark(contract: Contract, tickAt: (event: PointerEvent<HTMLElement>) => number | null) {
    const [marking, setMarking] = useState<{ from: number; to: number } | null>(null);
    return {
        marking,
        onPointerDown: (event: PointerEvent<HTMLElement>) => {
            const tick = event.button === RIGHT ? tickAt(event) : null;
            if (tick === null) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            setMarking({ from: tick, to: tick });
        },
        onPointerMove: (event: PointerEvent<HTMLElement>) => {
            const tick = tickAt(event);
            if (marking && tick !== null && tick !== marking.to) setMarking({ ...marking, to: tick });
        },
        onPointerUp: (event: PointerEvent<HTMLElement>) => {
            if (!marking || event.button !== RIGHT) return;
            markLevel(contract, marking.from, marking.to);
            setMarking(null);
        },
    };
}
