import { type ChangePreview, call, type Order } from '@/api/client';
import { useAsked } from '@/api/useAsked';

const LOOK_MS = 100;

/** What a change of a working order would cost, in PHP's words; empty while that is not known. */
export function useChangeCost({ id, account, ahead }: Order, asked: object | null): string {
    const key = asked === null ? '' : `${id} ${ahead} ${JSON.stringify(asked)}`;
    const { data, problem } = useAsked(
        key,
        (signal) => call<ChangePreview>('POST', `orders/${id}/preview`, { account, ...asked }, signal),
        { pace: LOOK_MS },
    );
    return data ? (data.refusal?.detail ?? data.words) : (problem?.message ?? '');
}
