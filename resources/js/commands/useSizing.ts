import { useEffect, useLayoutEffect } from 'react';
import { call, type Size } from '@/api/client';
import { useAsked } from '@/api/useAsked';
import { basisOf, bodyOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { type SizedBy, setSizedLots, useSize, useSizedBy } from '@/model/sizing';
import { useThisOrder } from '@/model/thisOrder';
import { typedNumber } from '@/model/typedNumber';
import { deskNow } from '@/stream/store';
import { WORDS } from './words';

/** What would add to the position: the same plan and changes that the next order carries. */
function sizeBody(by: SizedBy, amount: string) {
    const basis = basisOf();
    const short = (deskNow().positions[basis.contract]?.quantity ?? 0) < 0;
    const { quantity: _lots, over_band: _cut, ...body } = bodyOf({ side: short ? 'sell' : 'buy', kind: 'market' }, basis);
    return { ...body, risk: { [by]: amount } };
}

/** The price, and what bars range, move what fits: asked again so often, ms. */
const AGAIN_MS = 1000;

/**
 * Where the trader says what an order may lose, the lots follow plan, contract, price and true range. While it is not known how
 * many fit there are none: nothing is sent with the lots of another plan.
 */
export function useSizing(): void {
    const { by, amount } = useSizedBy();
    const account = useChoices((choices) => choices.account?.id);
    const code = useChoices((choices) => choices.code);
    const plan = useChoices((choices) => choices.plan);
    const version = useChoices((choices) => choices.plans.find((candidate) => candidate.id === choices.plan)?.version);
    const change = useThisOrder();
    // A half-typed number counts as far as it goes.
    const typed = typedNumber(amount.replace(/[.,]\s*$/, ''));
    const key = by === 'lots' ? '' : JSON.stringify([account, code, plan, version, change, by, typed]);

    useLayoutEffect(() => {
        if (key === '') return;
        useSize.setState(typed === '' ? { key, words: WORDS.typeRisk, asks: true } : null, true);
        setSizedLots(0);
    }, [key, typed]);

    const { data, problem } = useAsked(
        typed === '' ? '' : key,
        (signal) => call<Size>('POST', 'orders/size', sizeBody(by, typed), signal),
        { again: AGAIN_MS },
    );
    useEffect(() => {
        const found = data ?? (problem && { lots: 0, words: problem.message });
        if (found === null || key === '') return;
        useSize.setState({ key, words: found.words }, true);
        if (useChoices.getState().lots !== found.lots) setSizedLots(found.lots);
    }, [key, data, problem]);
}
