import { QueryClient, useQuery } from '@tanstack/react-query';
import { type Curve, call, type Noise } from './client';

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

interface NoiseWanted {
    account: number | undefined;
    contract: string;
    /** an exit plan's document; null asks nothing */
    document: object | null;
    quantity: number;
    minutes: number;
    /** with the stop nearer and farther too */
    byStop?: boolean;
}

/** What has just traded is tried anew so often, ms. */
const NOISE_MS = 8000;

/** How often the stop of a plan came first among entries tried on what has just traded; of another plan or contract nothing is shown. */
export function useNoise({ account, contract, document, quantity, minutes, byStop = false }: NoiseWanted): Noise | null {
    const { data } = useQuery({
        queryKey: ['noise', contract, document, minutes, byStop, account, quantity],
        queryFn: ({ signal }) =>
            call<Noise>('POST', 'exit-plans/noise', { account, contract, document, quantity, minutes, by_stop: byStop }, signal),
        enabled: account !== undefined && document !== null && contract !== '' && quantity > 0,
        refetchInterval: NOISE_MS,
        placeholderData: (before, query) => (query?.queryKey[1] === contract && query.queryKey[2] === document ? before : undefined),
    });
    return data ?? null;
}
