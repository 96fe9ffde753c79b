import { type PointerEvent, useRef, useState } from 'react';
import type { Contract } from '@/api/client';
import { markLevel } from './levels';

const RIGHT = 2;

/** Marks a level with one gesture: the right button pressed on a row, drawn over several for a band, and let go. */
export function useMark(contract: Contract, tickAt: (event: PointerEvent<HTMLElement>) => number | null) {
    const [marking, setMarking] = useState<{ from: number; to: number } | null>(null);
    // Where it began counts, not what has been drawn of it: a quick hand is done within one frame.
    const began = useRef<number | null>(null);
    return {
        marking,
        onPointerDown: (event: PointerEvent<HTMLElement>) => {
            const tick = event.button === RIGHT ? tickAt(event) : null;
            if (tick === null) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            began.current = tick;
            setMarking({ from: tick, to: tick });
        },
        onPointerMove: (event: PointerEvent<HTMLElement>) => {
            const from = began.current;
            const to = from === null ? null : tickAt(event);
            if (from !== null && to !== null) setMarking((old) => (old?.to === to ? old : { from, to }));
        },
        onPointerCancel: () => {
            began.current = null;
            setMarking(null);
        },
        onPointerUp: (event: PointerEvent<HTMLElement>) => {
            const from = began.current;
            if (from === null || event.button !== RIGHT) return;
            began.current = null;
            setMarking(null);
            markLevel(contract, from, tickAt(event) ?? from);
        },
    };
}
