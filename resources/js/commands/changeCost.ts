import { useEffect, useState } from 'react';
import { type ChangePreview, call, type Order, Problem } from '@/api/client';

const LOOK_MS = 100;

const costOf = ({ id, account }: Order, asked: object, signal?: AbortSignal): Promise<ChangePreview> =>
    call('POST', `orders/${id}/preview`, { account, ...asked }, signal);

/** What a change of a working order would cost, in PHP's words; empty while that is not known. */
export function useChangeCost(order: Order, asked: object | null): string {
    const key = asked === null ? '' : `${order.id} ${order.ahead} ${JSON.stringify(asked)}`;
    const [answer, setAnswer] = useState({ key: '', words: '' });
    // biome-ignore lint/correctness/useExhaustiveDependencies: the key has all that the answer rests on
    useEffect(() => {
        if (asked === null) return;
        const abort = new AbortController();
        const timer = window.setTimeout(() => {
            costOf(order, asked, abort.signal)
                .then((cost) => setAnswer({ key, words: cost.refusal?.detail ?? cost.words }))
                .catch((error: unknown) => error instanceof Problem && setAnswer({ key, words: error.message }));
        }, LOOK_MS);
        return () => {
            window.clearTimeout(timer);
            abort.abort();
        };
    }, [key]);
    return answer.key === key ? answer.words : '';
}
