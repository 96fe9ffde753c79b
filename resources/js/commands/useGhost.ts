import { useEffect, useRef, useState } from 'react';
import { call, type ExitPlan, type Preview, Problem, useSession } from '@/api/client';
import type { OrderBody, Placement } from '@/model/basis';
import { useChoices } from '@/model/choices';

export interface Ghost extends Placement {
    tick: number;
}

export interface GhostWords {
    words: string;
    split: string;
    /** the lots of each portion, with its stop and target in ticks */
    shares: Preview['split'];
    /** where its exits would stand, and what they would make or lose there */
    exits: Preview['exits'];
    /** exact, in the contract's currency; empty where nothing would open */
    margin: string;
    /** buying power once it is taken, exact, in the account's currency; empty where that cannot be said */
    left: string;
    /** at the stops, exact; empty where nothing limits it or nothing opens */
    risk: string;
    fees: string;
    /** the P/L at every rung were it filled there; null beside a position */
    lines: Preview['lines'];
    /** tick at which it would fill, as far as can be said */
    tick: number | null;
    refused: boolean;
    /** it risks more than is left of the daily loss limit */
    over: boolean;
    /** it only closes: one press sends it, one-click or not */
    closesOnly: boolean;
}

const wordsOf = (preview: Preview): GhostWords => ({
    words: preview.refusal ? preview.refusal.detail : preview.words,
    split: preview.split_words,
    shares: preview.split,
    exits: preview.refusal ? [] : preview.exits,
    margin: preview.opens > 0 ? preview.margin : '',
    left: preview.margin_left ?? '',
    fees: preview.fees,
    risk: preview.opens > 0 ? (preview.risk ?? '') : '',
    lines: preview.lines,
    tick: preview.tick,
    refused: preview.refusal !== null,
    over: preview.over_loss_room,
    closesOnly: preview.closes > 0 && preview.opens === 0,
});

const NOTHING: GhostWords = {
    words: '',
    split: '',
    shares: [],
    exits: [],
    margin: '',
    left: '',
    risk: '',
    fees: '',
    lines: null,
    tick: null,
    refused: false,
    over: false,
    closesOnly: false,
};

/** At most so often, ms: while the pointer runs over the rungs only those that it stays on are asked for. */
const LOOK_MS = 100;
const LOOK_AGAIN_MS = 500;

/** Nobody who was asked, too many calls, no answer, or an engine that is coming back: the order itself has not been refused. */
const UNKNOWN = [0, 401, 419, 429, 502, 503, 504];

/**
 * What would be sent, in PHP's words. While the answer is under way the last one is gone: nothing old is shown.
 *
 * `basis` is what the words rest on besides the request, such as the position's sequence: when it changes they are
 * asked for again.
 */
export function useGhostWords(request: OrderBody | null, basis: string): GhostWords | null {
    const key = request === null ? '' : `${basis} ${JSON.stringify(request)}`;
    // A plan that was saved meanwhile is another one.
    const plans = useChoices((choices) => choices.plans);
    const [answer, setAnswer] = useState<{ key: string; plans: ExitPlan[]; words: GhostWords } | null>(null);
    const latest = useRef(request);
    latest.current = request;
    const asked = useRef(Number.NEGATIVE_INFINITY);
    // While nobody is signed in nothing can be asked; it is once somebody is.
    const isLost = useSession((session) => session.isLost);
    useEffect(() => {
        if (key === '' || isLost) return;
        const abort = new AbortController();
        let timer = 0;
        const look = () => {
            asked.current = performance.now();
            call<Preview>('POST', 'orders/preview', latest.current, abort.signal)
                .then((preview) => setAnswer({ key, plans, words: wordsOf(preview) }))
                .catch((error: unknown) => {
                    if (!(error instanceof Problem)) return;
                    if (UNKNOWN.includes(error.status)) timer = window.setTimeout(look, LOOK_AGAIN_MS);
                    else setAnswer({ key, plans, words: { ...NOTHING, words: error.message, refused: true } });
                });
        };
        timer = window.setTimeout(look, Math.max(0, asked.current + LOOK_MS - performance.now()));
        return () => {
            window.clearTimeout(timer);
            abort.abort();
        };
    }, [key, plans, isLost]);
    return answer?.key === key && answer.plans === plans ? answer.words : null;
}
