import { useQuery } from '@tanstack/react-query';
import { useRef } from 'react';
import { call, type PlanStudy, Problem } from '@/api/client';
import { useChoices } from '@/model/choices';
import type { PlanDocument } from './document';
import { type Sample, useEditor } from './state';

/** How far the curve is asked for, in ticks. */
const FARTHEST = 60;

export const sampleBody = (plan: PlanDocument, sample: Sample) => ({
    account: useChoices.getState().account?.id,
    document: plan,
    contract: sample.contract,
    side: sample.side,
    quantity: sample.quantity,
    price: sample.price === '' ? null : sample.price,
});

interface Answer {
    /** null where the plan cannot be measured as it stands */
    study: PlanStudy | null;
    fault: string;
    pointer: string;
    /** it can be saved: nothing is wrong with it but that the market has not gone on for long enough to measure it */
    isPlan: boolean;
}

/** What PHP makes of the plan as it is being written; the last good answer stays while there is no other. */
export function useStudy(): Answer {
    const plan = useEditor((editor) => editor.plan);
    const sample = useEditor((editor) => editor.sample);
    const { data, error } = useQuery({
        queryKey: ['study', plan, sample],
        queryFn: ({ signal }) => call<PlanStudy>('POST', 'exit-plans/study', { ...sampleBody(plan, sample), best: FARTHEST }, signal),
        enabled: sample.contract !== '',
    });
    const answer = useRef<Answer>({ study: null, fault: '', pointer: '', isPlan: true });
    if (error instanceof Problem) {
        const waits = error.facts.waits === true;
        answer.current = {
            // A handle that is dragged over what cannot be keeps its curve; what cannot be measured has none.
            study: waits ? null : answer.current.study,
            fault: error.message,
            pointer: String(error.facts.pointer ?? ''),
            isPlan: waits,
        };
    } else if (data) answer.current = { study: data, fault: '', pointer: '', isPlan: true };
    return answer.current;
}
