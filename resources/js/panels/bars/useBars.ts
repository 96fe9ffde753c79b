import { useQuery } from '@tanstack/react-query';
import { type Bars, call } from '@/api/client';
import { queries } from '@/api/queries';
import { deskNow } from '@/stream/store';
import { inSight } from '@/ui/windows';

/** How often the engine is asked for its bars, in ms; between two answers only the last trade moves. */
const ASK_MS = 1000;
const MOST = 600;

/** The last bars of a contract, as the engine counts them. */
export function useBars(code: string, by: Bars['by'], size: number): Bars | null {
    const queryKey = ['bars', code, by, size];
    const { data } = useQuery({
        queryKey,
        queryFn: ({ signal }) =>
            // Where nobody looks, or the engine is away, what is there stays.
            inSight() === null || deskNow().feed !== 'live'
                ? (queries.getQueryData<Bars>(queryKey) ?? null)
                : call<Bars>('GET', `contracts/${code}/bars?by=${by}&size=${size}&most=${MOST}`, undefined, signal),
        refetchInterval: ASK_MS,
        refetchIntervalInBackground: true,
    });
    return data ?? null;
}
