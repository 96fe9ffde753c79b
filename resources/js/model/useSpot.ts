import { type PointerEvent, useEffect, useState } from 'react';
import { create } from 'zustand';
import type { Order } from '@/api/client';
import type { Book } from '@/stream/store';
import { walksItself } from '@/ui/written';
import { isFor } from './screen';

/** The rung and lane that is pointed at, by the pointer or by the arrow keys. */
export interface Spot {
    tick: number;
    side: Order['side'];
    byKeys: boolean;
}

const STEPS: Record<string, number> = { ArrowUp: 1, ArrowDown: -1 };
const SIDES: Record<string, Order['side']> = { ArrowLeft: 'buy', ArrowRight: 'sell' };

export function spotOf(event: PointerEvent<HTMLElement>): Spot | null {
    const target = event.target as HTMLElement;
    const lane = target.closest<HTMLElement>('[data-lane]');
    const rung = target.closest<HTMLElement>('[data-tick]');
    if (!lane || !rung || target.closest('[data-part=chip]')) return null;
    return { tick: Number(rung.dataset.tick), side: lane.dataset.lane as Order['side'], byKeys: false };
}

const isSame = (one: Spot | null, other: Spot | null) =>
    one?.tick === other?.tick && one?.side === other?.side && one?.byKeys === other?.byKeys;

/** The rung that is pointed at, for whoever needs it outside the ladder. */
export const usePointed = create<{ tick: number | null }>(() => ({ tick: null }));

/** Arrows move the spot from rung to rung and from lane to lane; Esc takes it away. It begins at the touch. */
export function useSpot(book: Book | undefined, code: string, isFront: boolean) {
    const [spot, setSpot] = useState<Spot | null>(null);
    // biome-ignore lint/correctness/useExhaustiveDependencies: another contract has other rungs
    useEffect(() => setSpot(null), [code]);
    const tick = spot?.tick ?? null;
    useEffect(() => {
        if (isFront) usePointed.setState({ tick });
        // Where the pointer rests it is seen as soon as the ladder comes in front.
        else setSpot((old) => (old?.byKeys ? null : old));
    }, [tick, isFront]);

    useEffect(() => {
        const press = (event: KeyboardEvent) => {
            if (!isFront || !isFor('desk', event) || walksItself(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
            const step = STEPS[event.key];
            const side = SIDES[event.key];
            if (event.key === 'Escape') setSpot((old) => (old?.byKeys ? null : old));
            if (step === undefined && side === undefined) return;
            event.preventDefault();
            setSpot((old) => {
                const begin = old ?? { tick: book?.bestBid ?? book?.bestAsk ?? 0, side: 'buy' as const, byKeys: true };
                if (old === null) return side === 'sell' ? { tick: book?.bestAsk ?? begin.tick, side, byKeys: true } : begin;
                return { tick: begin.tick + (step ?? 0), side: side ?? begin.side, byKeys: true };
            });
        };
        window.addEventListener('keydown', press);
        return () => window.removeEventListener('keydown', press);
    }, [book, isFront]);

    return {
        spot,
        point: (found: Spot | null) => setSpot((old) => (isSame(old, found) || (found === null && old?.byKeys) ? old : found)),
        leave: () => setSpot((old) => (old?.byKeys ? old : null)),
    };
}
