import { useEffect, useRef, useState } from 'react';
import { Problem, useSession } from './client';

/** Nobody who was asked, too many calls, no answer, or an engine that is coming back: what was asked has not been refused. */
const UNKNOWN = [0, 401, 419, 429, 502, 503, 504];
/** Then it is asked again, ms. */
const RETRY_MS = 500;

interface Options {
    /** at most so often, ms: while the pointer runs over the rungs only those that it stays on are asked for */
    pace?: number;
    /** and again so long after each answer, ms, for as long as it is looked at */
    again?: number;
}

export interface Asked<Of> {
    data: Of | null;
    /** why there is no answer */
    problem: Problem | null;
    /** what was asked is refused, and not merely unanswered */
    isRefused: boolean;
}

const NOTHING = { data: null, problem: null, isRefused: false };

/**
 * What the server says of something that changes under the hand. The answer to another key is gone at once: nothing old is shown.
 *
 * @param key all that the answer rests on; empty asks nothing
 */
export function useAsked<Of>(key: string, ask: (signal: AbortSignal) => Promise<Of>, { pace = 0, again }: Options = {}): Asked<Of> {
    const [answer, setAnswer] = useState<{ key: string } & Asked<Of>>({ key: '', ...NOTHING });
    const latest = useRef(ask);
    latest.current = ask;
    const asked = useRef(Number.NEGATIVE_INFINITY);
    // While nobody is signed in nothing can be asked; it is once somebody is.
    const isLost = useSession((session) => session.isLost);
    useEffect(() => {
        if (key === '' || isLost) return;
        const abort = new AbortController();
        let timer = 0;
        const look = () => {
            asked.current = performance.now();
            const next = (ms: number | undefined) => {
                if (!abort.signal.aborted && ms !== undefined) timer = window.setTimeout(look, ms);
            };
            latest
                .current(abort.signal)
                .then((data) => {
                    if (!abort.signal.aborted) setAnswer({ ...NOTHING, key, data });
                    next(again);
                })
                .catch((problem: unknown) => {
                    if (abort.signal.aborted) return;
                    if (!(problem instanceof Problem)) throw problem;
                    const isRefused = !UNKNOWN.includes(problem.status);
                    setAnswer({ key, data: null, problem, isRefused });
                    next(isRefused ? again : RETRY_MS);
                });
        };
        timer = window.setTimeout(look, Math.max(0, asked.current + pace - performance.now()));
        return () => {
            window.clearTimeout(timer);
            abort.abort();
        };
    }, [key, isLost, pace, again]);
    return answer.key === key ? answer : NOTHING;
}
