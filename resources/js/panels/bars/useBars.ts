import { useEffect, useState } from 'react';
import { type Bars, call } from '@/api/client';
import { useDesk } from '@/stream/store';
import { inSight } from '@/ui/windows';

/** How often the engine is asked for its bars, in ms; between two answers only the last trade moves. */
const ASK_MS = 1000;
const MOST = 600;

/** The last bars of a contract, as the engine counts them. */
export function useBars(code: string, by: Bars['by'], size: number): Bars | null {
    const [found, setFound] = useState<{ code: string; bars: Bars } | null>(null);
    useEffect(() => {
        const given = new AbortController();
        const ask = () => {
            if (inSight() === null || useDesk.getState().feed !== 'live') return;
            call<Bars>('GET', `contracts/${code}/bars?by=${by}&size=${size}&most=${MOST}`, undefined, given.signal)
                .then((bars) => setFound({ code, bars }))
                .catch(() => undefined);
        };
        ask();
        const timer = window.setInterval(ask, ASK_MS);
        return () => {
            window.clearInterval(timer);
            given.abort();
        };
    }, [code, by, size]);
    return found?.code === code && found.bars.by === by && found.bars.size === size ? found.bars : null;
}
