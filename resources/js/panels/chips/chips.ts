import { useMemo } from 'react';
import { isChanging, useChosen } from '@/commands/chosen';
import { useDrafts } from '@/commands/drafts';
import { useDesk } from '@/stream/store';
import type { ChipData } from './Chip';
import { WORDS } from './words';

/** The chips of a contract's ladder: `side tick` → the chips there, as JSON. */
export function useChips(code: string): Map<string, string> {
    const orders = useDesk((desk) => desk.orders);
    const drafts = useDrafts((state) => state.list);
    const draft = useDrafts((state) => state.chosen);
    const chosen = useChosen();
    return useMemo(() => {
        const byRung = new Map<string, ChipData[]>();
        const add = (side: string, tick: number, chip: ChipData) => {
            const key = `${side} ${tick}`;
            byRung.set(key, [...(byRung.get(key) ?? []), chip]);
        };
        for (const order of orders.values()) {
            if (order.contract !== code || order.level === null || order.kind === 'market') continue;
            const chip: ChipData = {
                id: order.id,
                lots: order.leaves,
                of: order.quantity,
                role: order.role,
                words: `${order.wished ? 'going · ' : ''}${order.words}${order.tied ? ` · ${order.tied.kind.toUpperCase()}` : ''}`,
                more: `${order.why}${order.counts_from === null ? '' : WORDS.countedFrom(order.counts_from)}${order.steering === 'hand' ? ', manual' : ''}${order.wished ? WORDS.cancelledWhenAnswered : ''}`,
                byHand: order.steering === 'hand',
                ahead: order.ahead,
                mark: order.state.startsWith('pending') ? 'pending' : order.id === chosen.id ? 'chosen' : '',
            };
            add(order.side, order.level, chip);
            if (order.id === chosen.id && isChanging(chosen)) {
                const lots = chosen.lots ?? order.leaves;
                add(order.side, chosen.tick ?? order.level, {
                    ...chip,
                    lots,
                    of: lots,
                    words: 'not sent',
                    more: '',
                    byHand: false,
                    ahead: null,
                    mark: '',
                    role: 'wanted',
                });
            }
        }
        for (const one of drafts) {
            if (one.contract !== code) continue;
            add(one.side, one.tick, {
                id: one.id,
                lots: one.lots,
                of: one.lots,
                role: 'draft',
                words: 'draft',
                more: '',
                byHand: false,
                ahead: null,
                mark: one.id === draft ? 'chosen' : '',
            });
        }
        return new Map([...byRung].map(([key, list]) => [key, JSON.stringify(list)]));
    }, [orders, drafts, draft, chosen, code]);
}
