import { useEffect, useState } from 'react';
import { call, type PlanStudy, Problem } from '@/api/client';
import { useChoices } from '@/desk/choices';
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

/** What PHP makes of the plan as it is being written; the last good answer stays while the next is under way. */
export function useStudy(): { study: PlanStudy | null; fault: string; pointer: string } {
    const plan = useEditor((editor) => editor.plan);
    const sample = useEditor((editor) => editor.sample);
    const [answer, setAnswer] = useState<{ study: PlanStudy | null; fault: string; pointer: string }>({
        study: null,
        fault: '',
        pointer: '',
    });
    useEffect(() => {
        if (sample.contract === '') return;
        const abort = new AbortController();
        call<PlanStudy>('POST', 'exit-plans/study', { ...sampleBody(plan, sample), best: FARTHEST }, abort.signal)
            .then((study) => setAnswer({ study, fault: '', pointer: '' }))
            .catch((error: unknown) => {
                if (error instanceof Problem)
                    setAnswer((before) => ({ ...before, fault: error.message, pointer: String(error.facts.pointer ?? '') }));
            });
        return () => abort.abort();
    }, [plan, sample]);
    return answer;
}
