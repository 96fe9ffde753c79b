import { type PointerEvent, useEffect, useRef, useState } from 'react';
import type { Contract, Position } from '@/api/client';
import { useDesk } from '@/stream/store';
import { move, setExit } from './actions';
import type { ChipData } from './Chip';
import { chooseOrder } from './chosen';
import { chooseDraft, moveDraft } from './drafts';
import { price } from './prices';
import { dropTie, tieTo } from './tie';

/**
 * What is being dragged, and the rung that it is over: an order, or a stop or target pulled out of the position; with
 * Shift held both of them, the other as far on the other side of the average.
 */
export type Drag = { to: number } & ({ chip: ChipData } | { role: 'stop' | 'target'; mirror: number | null });

type Grabbed = { chip: ChipData } | { position: Position };

/** What the position's lots would get at a rung: a target where the market has yet to come, a stop where it was. */
export function exitAt(position: Position, tick: number): 'stop' | 'target' {
    const book = useDesk.getState().books[position.contract];
    const sign = position.quantity > 0 ? 1 : -1;
    const exit = (sign > 0 ? book?.bestBid : book?.bestAsk) ?? book?.last?.price ?? tick;
    return sign * (tick - exit) > 0 ? 'target' : 'stop';
}

/** Dragging to another rung. A draft goes along; an order is changed where it is let go, and not before. */
export function useDrag(contract: Contract, tickAt: (event: PointerEvent<HTMLElement>) => number | null) {
    const [drag, setDrag] = useState<Drag | null>(null);
    const grabbed = useRef<Grabbed | null>(null);

    useEffect(() => {
        const drop = (event: KeyboardEvent) => {
            if (event.key !== 'Escape') return;
            grabbed.current = null;
            setDrag(null);
            dropTie();
        };
        window.addEventListener('keydown', drop);
        return () => window.removeEventListener('keydown', drop);
    }, []);

    return {
        drag,
        /** the chip that is held down */
        held: () => (grabbed.current && 'chip' in grabbed.current ? grabbed.current.chip : null),
        grab: (chip: ChipData) => {
            if (chip.role !== 'draft' && tieTo(chip.id)) return;
            grabbed.current = { chip };
            if (chip.role === 'draft') {
                chooseOrder(null);
                chooseDraft(chip.id);
            } else {
                chooseOrder(chip.id);
            }
        },
        grabPosition: (position: Position) => {
            grabbed.current = { position };
        },
        /** true while something is dragged, so that the ghost keeps quiet */
        moveTo: (event: PointerEvent<HTMLElement>): boolean => {
            const what = grabbed.current;
            const to = tickAt(event);
            if (what === null || to === null) return what !== null;
            if ('position' in what) {
                const average = what.position.average_level;
                const mirror = event.shiftKey && average !== null ? 2 * average - to : null;
                setDrag(to === average ? null : { role: exitAt(what.position, to), to, mirror });
            } else if (what.chip.role === 'draft') {
                moveDraft(what.chip.id, to, contract);
            } else {
                setDrag({ chip: what.chip, to });
            }
            return true;
        },
        letGo: () => {
            grabbed.current = null;
            if (drag === null) return;
            setDrag(null);
            if ('role' in drag) return setExit(drag.role, price(contract, drag.to), drag.mirror === null ? undefined : price(contract, drag.mirror));
            const order = useDesk.getState().orders.get(drag.chip.id);
            if (order && drag.to !== order.level) move(order, price(contract, drag.to));
        },
    };
}
