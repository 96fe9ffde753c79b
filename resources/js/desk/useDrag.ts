import { type PointerEvent, useEffect, useRef, useState } from 'react';
import type { Contract } from '@/api/client';
import { useDesk } from '@/stream/store';
import { move } from './actions';
import type { ChipData } from './Chip';
import { chooseDraft, moveDraft } from './drafts';
import { price } from './prices';

interface Drag {
    chip: ChipData;
    from: number;
    to: number;
}

/** Dragging a chip to another rung. A draft goes along; an order is changed where it is let go, and not before. */
export function useDrag(contract: Contract, tickAt: (event: PointerEvent<HTMLElement>) => number | null) {
    const [drag, setDrag] = useState<Drag | null>(null);
    const grabbed = useRef<ChipData | null>(null);

    useEffect(() => {
        const drop = (event: KeyboardEvent) => {
            if (event.key !== 'Escape') return;
            grabbed.current = null;
            setDrag(null);
        };
        window.addEventListener('keydown', drop);
        return () => window.removeEventListener('keydown', drop);
    }, []);

    return {
        drag,
        grab: (chip: ChipData) => {
            grabbed.current = chip;
            if (chip.role === 'draft') chooseDraft(chip.id);
        },
        /** true while something is dragged, so that the ghost keeps quiet */
        moveTo: (event: PointerEvent<HTMLElement>): boolean => {
            const chip = grabbed.current;
            const to = tickAt(event);
            if (chip === null || to === null) return chip !== null;
            if (chip.role === 'draft') {
                moveDraft(chip.id, to, contract);
            } else {
                const from = useDesk.getState().orders.get(chip.id)?.level ?? to;
                setDrag({ chip, from, to });
            }
            return true;
        },
        letGo: () => {
            grabbed.current = null;
            if (drag === null) return;
            setDrag(null);
            const order = useDesk.getState().orders.get(drag.chip.id);
            if (order && drag.to !== order.level) move(order, price(contract, drag.to));
        },
    };
}
