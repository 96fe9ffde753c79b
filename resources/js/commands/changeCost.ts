import { useEffect, useState } from 'react';
import { type ChangePreview, call, type Order, Problem } from '@/api/client';
import { ask } from '@/ui/question';
import { change } from './actions';
import { WORDS } from './words';

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

/** A change that was typed: one that would trade at once is asked about first. */
export async function changeTyped(order: Order, asked: object): Promise<void> {
    // Where it is not known what it would cost, the change itself says what is wrong with it.
    const cost = await costOf(order, asked).catch(() => null);
    if (!cost?.would_trade || cost.refusal !== null) return change(order, asked);
    ask({
        title: 'Trade now?',
        words: `Order ${order.id} ${cost.words}.`,
        safe: WORDS.leaveAsItIs,
        answers: [{ label: 'Change it', name: 'change-through', act: () => change(order, asked) }],
    });
}
