import { useEffect, useState } from 'react';
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
    const [answer, setAnswer] = useState<Answer>({ study: null, fault: '', pointer: '', isPlan: true });
    useEffect(() => {
        if (sample.contract === '') return;
        const abort = new AbortController();
        call<PlanStudy>('POST', 'exit-plans/study', { ...sampleBody(plan, sample), best: FARTHEST }, abort.signal)
            .then((study) => setAnswer({ study, fault: '', pointer: '', isPlan: true }))
            .catch((error: unknown) => {
                if (error instanceof Problem)
                    setAnswer((before) => ({
                        // A handle that is dragged over what cannot be keeps its curve; what cannot be measured has none.
                        study: error.facts.waits === true ? null : before.study,
                        fault: error.message,
                        pointer: String(error.facts.pointer ?? ''),
                        isPlan: error.facts.waits === true,
                    }));
            });
        return () => abort.abort();
    }, [plan, sample]);
    return answer;
}
