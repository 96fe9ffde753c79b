import { useMemo } from 'react';
import { call, type Preview } from '@/api/client';
import { useAsked } from '@/api/useAsked';
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

/**
 * What would be sent, in PHP's words. While the answer is under way the last one is gone: nothing old is shown.
 *
 * `basis` is what the words rest on besides the request, such as the position's sequence: when it changes they are
 * asked for again.
 */
export function useGhostWords(request: OrderBody | null, basis: string): GhostWords | null {
    // A plan that was saved meanwhile is another one.
    const version = useChoices((choices) => choices.plans.find((plan) => plan.id === request?.exit_plan)?.version);
    const key = request === null ? '' : `${basis} ${version} ${JSON.stringify(request)}`;
    const { data, problem, isRefused } = useAsked(key, (signal) => call<Preview>('POST', 'orders/preview', request, signal), {
        pace: LOOK_MS,
    });
    return useMemo(() => {
        if (data !== null) return wordsOf(data);
        return problem === null || !isRefused ? null : { ...NOTHING, words: problem.message, refused: true };
    }, [data, problem, isRefused]);
}
