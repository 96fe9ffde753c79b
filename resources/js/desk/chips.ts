import { useMemo } from 'react';
import { useDesk } from '@/stream/store';
import type { ChipData } from './Chip';
import { useDrafts } from './drafts';

/** The chips of a contract's ladder: `side tick` → the chips there, as JSON. */
export function useChips(code: string): Map<string, string> {
    const orders = useDesk((desk) => desk.orders);
    const drafts = useDrafts((state) => state.list);
    const chosen = useDrafts((state) => state.chosen);
    return useMemo(() => {
        const byRung = new Map<string, ChipData[]>();
        const add = (side: string, tick: number, chip: ChipData) => {
            const key = `${side} ${tick}`;
            byRung.set(key, [...(byRung.get(key) ?? []), chip]);
        };
        for (const order of orders.values()) {
            if (order.contract !== code || order.level === null || order.kind === 'market') continue;
            const words = order.steering === 'hand' ? `${order.words} · by hand` : order.words;
            add(order.side, order.level, {
                id: order.id,
                lots: order.leaves,
                role: order.role,
                words,
                mark: order.state.startsWith('pending') ? 'pending' : '',
            });
        }
        for (const draft of drafts) {
            if (draft.contract !== code) continue;
            add(draft.side, draft.tick, {
                id: draft.id,
                lots: draft.lots,
                role: 'draft',
                words: `draft · ${draft.kind}`,
                mark: draft.id === chosen ? 'chosen' : '',
            });
        }
        return new Map([...byRung].map(([key, list]) => [key, JSON.stringify(list)]));
    }, [orders, drafts, chosen, code]);
}
