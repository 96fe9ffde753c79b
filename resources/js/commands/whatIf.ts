import { useMemo } from 'react';
import { create } from 'zustand';
import { bodyOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { price } from '@/model/prices';
import { contractOf } from '@/model/writing';
import { useDesk } from '@/stream/store';
import { useChosen } from './chosen';
import { useDrafts } from './drafts';

/** What the pointer drags now: a working order, or a stop out of the position; in ticks. */
export const useDragged = create<{ order: { id: number; tick: number } | null; stop: { contract: string; tick: number } | null }>(() => ({
    order: null,
    stop: null,
}));

/**
 * All that is shown and not sent, as what-if is asked for it: a stop that is dragged or moved by keys, one pulled out of the
 * position, and the drafts of this account. Null where there is nothing of it.
 */
export function useWhatIf(): object | null {
    const account = useChoices((choices) => choices.account?.id);
    const dragged = useDragged();
    const chosen = useChosen();
    const drafts = useDrafts((state) => state.list);
    const order = useDesk((desk) => desk.orders.get(dragged.order?.id ?? (chosen.tick === null ? 0 : (chosen.id ?? 0))));
    const tick = dragged.order?.tick ?? chosen.tick;
    return useMemo(() => {
        const at = (code: string, level: number) => {
            const contract = contractOf(code);
            return contract ? price(contract, level) : null;
        };
        const isStop = order !== undefined && order.role !== 'entry' && order.kind.startsWith('stop');
        const moved = isStop && tick !== null ? at(order.contract, tick) : null;
        const pulled = dragged.stop ? at(dragged.stop.contract, dragged.stop.tick) : null;
        const orders = drafts.filter((draft) => draft.account === account).map((draft) => bodyOf(draft, draft, draft.more));
        if (moved === null && pulled === null && orders.length === 0) return null;
        return {
            moves: moved === null ? [] : [{ order: order?.id, price: moved }],
            stops: pulled === null ? [] : [{ contract: dragged.stop?.contract, price: pulled }],
            orders,
        };
    }, [account, order, tick, dragged.stop, drafts]);
}
