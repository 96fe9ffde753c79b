import { useMemo } from 'react';
import { isTold, useBeingSent } from '@/commands/beingSent';
import { isChanging, useChosen } from '@/commands/chosen';
import { sentAs, useDrafts } from '@/commands/drafts';
import { useDesk } from '@/stream/store';
import type { ChipData } from './Chip';
import { WORDS } from './words';

/** The chips of a contract's ladder: `side tick` → the chips there, as JSON. */
export function useChips(code: string): Map<string, string> {
    const orders = useDesk((desk) => desk.orders);
    const drafts = useDrafts((state) => state.list);
    const draft = useDrafts((state) => state.chosen);
    const chosen = useChosen();
    const sending = useBeingSent((state) => state.list);
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
                mark:
                    order.state.startsWith('pending') || sending.some((sent) => sent.refusal === '' && sent.order === order.id)
                        ? 'pending'
                        : order.id === chosen.id
                          ? 'chosen'
                          : '',
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
            // One that is on its way stands there as that.
            if (one.contract !== code || sending.some((sent) => sent.refusal === '' && sent.id === sentAs(one.id))) continue;
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
        for (const sent of sending) {
            if (sent.contract !== code || (sent.does === 'cancel' && sent.refusal === '') || isTold(sent, orders)) continue;
            add(sent.side, sent.tick, {
                id: sent.number,
                lots: sent.lots,
                of: sent.lots,
                role: 'sending',
                words: sent.refusal ? WORDS.notDone : sent.isGivenUp ? WORDS.givingUp : WORDS.onItsWay[sent.does],
                more: sent.refusal,
                byHand: false,
                ahead: null,
                mark: '',
                command: sent.does === 'place' && !sent.refusal && !sent.isGivenUp ? sent.id : undefined,
            });
        }
        return new Map([...byRung].map(([key, list]) => [key, JSON.stringify(list)]));
    }, [orders, drafts, draft, chosen, sending, code]);
}
