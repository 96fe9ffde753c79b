import { QueryClient, useQuery } from '@tanstack/react-query';
import { type Curve, call } from './client';

/**
 * What is asked of the server and not streamed. Each answer is asked for anew when it is looked at: a market has gone on
 * meanwhile. Refusals are answers, so nothing is tried again by itself.
 */
export const queries = new QueryClient({
    defaultOptions: {
        queries: { retry: false, refetchOnWindowFocus: false, networkMode: 'always', gcTime: 60_000, structuralSharing: false },
    },
});

interface Wanted {
    /** null asks nothing */
    plan: number | null;
    /** a plan that was saved anew is drawn anew */
    version: number | undefined;
    contract: string;
    quantity: number;
    /** as far as the best profit is looked at, in ticks */
    best: number;
}

/** Where the stop will stand; with other lots the curve of before stays until theirs is there, with another plan it does not. */
export function useCurve({ plan, version, contract, quantity, best }: Wanted): Curve | null {
    const { data } = useQuery({
        queryKey: ['curve', plan, version, contract, best, quantity],
        queryFn: ({ signal }) =>
            call<Curve>('GET', `exit-plans/${plan}/curve?best=${best}&contract=${contract}&quantity=${quantity}`, undefined, signal),
        enabled: plan !== null,
        placeholderData: (before, query) => (query?.queryKey[1] === plan ? before : undefined),
    });
    return data ?? null;
}
