import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import * as z from 'zod/mini';
import { call, type OpenRisk } from '@/api/client';
import { useWhatIf } from '@/commands/whatIf';
import { useChoices } from '@/model/choices';
import { createKept } from '@/ui/kept';

/** The depth that stops would fall into moves all the time: asked for so often while it is looked at, ms. */
const AGAIN_MS = 500;

/** While something is dragged over many rungs only those that it stays on are asked for. */
const LOOK_MS = 80;

export type GapOver = 'ticks' | 'hour' | 'day';

/** How far through each stop: so many ticks, or as far as the contract has jumped lately. */
export const useGap = createKept(
    'gap',
    { ticks: z.int().check(z.nonnegative()), over: z.enum(['ticks', 'hour', 'day']) },
    { ticks: 10, over: 'ticks' as GapOver },
);

interface Answer {
    /** null while it is not known */
    risk: OpenRisk | null;
    /** it is not so: it would be if what is dragged or drafted were done */
    isWhatIf: boolean;
    fault: string;
}

/** What is lost if the stops fill; what is dragged and drafted counts as if it were done, once that is known. `looks` asks again and again. */
export function useOpenRisk(looks: boolean): Answer {
    const account = useChoices((choices) => choices.account?.id);
    const gap = useGap((kept) => (kept.over === 'ticks' ? String(kept.ticks) : kept.over));
    const whatIf = useSettled(useWhatIf());
    const now = useQuery({
        queryKey: ['open-risk', account, gap],
        queryFn: ({ signal }) => call<OpenRisk>('GET', `accounts/${account}/open-risk?gap=${gap}`, undefined, signal),
        enabled: account !== undefined && looks,
        refetchInterval: AGAIN_MS,
        placeholderData: keepPreviousData,
    });
    const then = useQuery({
        queryKey: ['what-if', account, gap, whatIf],
        queryFn: ({ signal }) => call<OpenRisk>('POST', `accounts/${account}/what-if`, { ...whatIf, gap }, signal),
        enabled: account !== undefined && whatIf !== null,
        refetchInterval: looks ? AGAIN_MS : false,
        // Of what is dragged the rung before stays until the next one is known.
        placeholderData: whatIf === null ? undefined : keepPreviousData,
    });
    const isWhatIf = whatIf !== null && !then.error && then.data?.account === account;
    const data = isWhatIf ? then.data : now.data;
    return { risk: data?.account === account ? (data ?? null) : null, isWhatIf, fault: isWhatIf ? '' : (now.error?.message ?? '') };
}

/** What has stood still for a moment; that there is nothing is so at once. */
function useSettled(wished: object | null): object | null {
    const [steady, setSteady] = useState(wished);
    useEffect(() => {
        if (wished === null) return setSteady(null);
        const timer = window.setTimeout(() => setSteady(wished), LOOK_MS);
        return () => window.clearTimeout(timer);
    }, [wished]);
    return wished === null ? null : steady;
}
