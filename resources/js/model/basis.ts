import { useMemo } from 'react';
import type { Order, PlanChange } from '@/api/client';
import { chosenFor, useChoices } from './choices';
import { useSettings } from './settings';
import { thisOrder, useThisOrder } from './thisOrder';

/** Where a command acts: taken when the button or key goes down, never looked up again. */
export interface Ground {
    readonly account: number;
    readonly contract: string;
}

/** All that an order carries besides its place at the market. */
export interface Basis extends Ground {
    readonly lots: number;
    readonly plan: number | null;
    readonly tag: string;
    readonly tif?: 'day' | 'gtc';
    /** what is different from the plan for this order only */
    readonly change?: PlanChange;
    /** a market order beyond the price band is cut, not refused */
    readonly cut?: boolean;
}

export interface Placement {
    side: Order['side'];
    kind: Order['kind'];
    price?: string;
    trigger?: string;
}

/** What goes with an order beyond its price: a ticket's durations and times, an action key's name. */
export interface More {
    tif?: Order['tif'];
    expires_at?: string;
    release_at?: string;
    cancel_at?: string;
    condition?: { contract: string; price: string; last: 'at-or-above' | 'at-or-below' };
    after?: number;
    /** what it does on the closing side: it closes and never opens, or goes on through flat */
    closing?: 'close' | 'through';
    via?: string;
}

/** The contract in front, or another one. */
export function groundOf(contract = useChoices.getState().code): Ground {
    return { account: useChoices.getState().account?.id ?? 0, contract };
}

/** As it is chosen at this moment for a contract. */
export function basisOf(contract = useChoices.getState().code): Basis {
    const { tag } = useChoices.getState();
    const { lots, plan } = chosenFor(contract);
    const tif = useSettings.getState().entry.contracts[contract]?.tif;
    const change = contract === useChoices.getState().code ? thisOrder(plan) : undefined;
    const cut = useSettings.getState().entry.cut_to_band;
    return { ...groundOf(contract), lots, plan, tag, ...(tif && { tif }), ...(change && { change }), ...(cut && { cut }) };
}

/** The same for what is drawn: it changes when one of the choices does. */
export function useBasis(contract: string): Basis {
    const lots = useChoices((choices) => chosenFor(contract, choices).lots);
    const plan = useChoices((choices) => chosenFor(contract, choices).plan);
    const tag = useChoices((choices) => choices.tag);
    const front = useChoices((choices) => choices.code);
    const tif = useSettings((settings) => settings.entry.contracts[contract]?.tif);
    const cut = useSettings((settings) => settings.entry.cut_to_band);
    const change = useThisOrder();
    // biome-ignore lint/correctness/useExhaustiveDependencies: what is chosen is read where it stands
    return useMemo(() => basisOf(contract), [contract, lots, plan, tag, front, tif, change, cut]);
}

const isHeld = ({ release_at, condition, after }: More) => (release_at ?? condition ?? after) !== undefined;

/** An order as the API takes it: what the ghost shows, what the preview is asked for and what is sent. */
export type OrderBody = ReturnType<typeof bodyOf>;

export function bodyOf(
    { side, kind, price, trigger }: Placement,
    { account, contract, lots, plan, tag, tif, change, cut }: Basis,
    more: More = {},
) {
    return {
        account,
        contract,
        side,
        kind,
        quantity: lots,
        exit_plan: plan,
        ...(price !== undefined && { price }),
        ...(trigger !== undefined && { trigger }),
        ...(tag !== '' && { tag }),
        ...(tif && kind !== 'market' && { tif }),
        ...(cut && kind === 'market' && !isHeld(more) && { over_band: 'cut' as const }),
        ...(change && plan !== null && { this_order: change }),
        ...more,
    };
}
