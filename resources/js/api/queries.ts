import { QueryClient, queryOptions, useQuery } from '@tanstack/react-query';
import { type Account, type Curve, call, list, type Noise } from './client';

/**
 * What is asked of the server and not streamed. Each answer is asked for anew when it is looked at: a market has gone on
 * meanwhile. Refusals are answers, so nothing is tried again by itself.
 */
export const queries = new QueryClient({
    defaultOptions: {
        queries: { retry: false, refetchOnWindowFocus: false, networkMode: 'always', gcTime: 60_000, structuralSharing: false },
    },
});

/** Another page may have opened or closed one: it is known within so long, ms. */
const ACCOUNTS_MS = 60_000;

export const ACCOUNTS = queryOptions({
    queryKey: ['accounts'],
    queryFn: ({ signal }) => list<Account>('accounts', signal),
    staleTime: ACCOUNTS_MS,
});

/** The accounts that the user may look at. */
export const useAccounts = (): readonly Account[] => useQuery(ACCOUNTS).data ?? [];

/** One of them as the server has it now. */
export const putAccount = (account: Account): void =>
    void queries.setQueryData(ACCOUNTS.queryKey, (known) => known?.map((one) => (one.id === account.id ? account : one)));

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
