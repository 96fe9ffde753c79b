import { useMemo } from 'react';
import { create } from 'zustand';
import { bodyOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { price } from '@/model/prices';
import { contractOf } from '@/model/writing';
import { useDesk } from '@/stream/store';
import { useChosen } from './chosen';
import { useDrafts } from './drafts';

interface Dragged {
    orders: readonly number[];
    /** where they would stand */
    tick: number | null;
    stop: { contract: string; tick: number } | null;
}

/** What the pointer drags now: working orders, or a stop out of the position; in ticks. */
export const useDragged = create<Dragged>(() => ({ orders: [], tick: null, stop: null }));

const NONE: readonly number[] = [];

/**
 * All that is shown and not sent, as what-if is asked for it: a stop that is dragged or moved by keys, one pulled out of the
 * position, and the drafts of this account. Null where there is nothing of it.
 */
export function useWhatIf(): object | null {
    const account = useChoices((choices) => choices.account?.id);
    const dragged = useDragged();
    const chosen = useChosen();
    const drafts = useDrafts((state) => state.list);
    const moving = useMemo(
        () => (dragged.orders.length > 0 ? dragged.orders : chosen.tick === null || chosen.id === null ? NONE : [chosen.id]),
        [dragged.orders, chosen.tick, chosen.id],
    );
    const orders = useDesk((desk) => desk.orders);
    const tick = dragged.tick ?? chosen.tick;
    return useMemo(() => {
        const at = (code: string, level: number) => {
            const contract = contractOf(code);
            return contract ? price(contract, level) : null;
        };
        const moves = moving.flatMap((id) => {
            const order = orders.get(id);
            const isStop = order !== undefined && order.role !== 'entry' && order.kind.startsWith('stop');
            const to = isStop && tick !== null ? at(order.contract, tick) : null;
            return to === null ? [] : [{ order: id, price: to }];
        });
        const pulled = dragged.stop ? at(dragged.stop.contract, dragged.stop.tick) : null;
        const placed = drafts.filter((draft) => draft.account === account).map((draft) => bodyOf(draft, draft, draft.more));
        if (moves.length === 0 && pulled === null && placed.length === 0) return null;
        return {
            moves,
            stops: pulled === null ? [] : [{ contract: dragged.stop?.contract, price: pulled }],
            orders: placed,
        };
    }, [account, moving, orders, tick, dragged.stop, drafts]);
}
