import { create } from 'zustand';
import type { PlanChange } from '@/api/client';
import { useChoices } from './choices';

interface ThisOrder {
    /** ticks; null leaves the plan's own */
    stop: number | null;
    /** portion → its target in ticks, null for a runner */
    targets: Record<number, number | null>;
}

const NOTHING: ThisOrder = { stop: null, targets: {} };

/** What is different from the chosen plan for the next order only. */
export const useThisOrder = create<ThisOrder>(() => NOTHING);

export const isChanged = ({ stop, targets }: ThisOrder): boolean => stop !== null || Object.keys(targets).length > 0;

export const asPlanned = (): void => useThisOrder.setState(NOTHING, true);

/** Another plan, or another contract, begins as it is written. */
useChoices.subscribe((now, before) => {
    if ((now.plan !== before.plan || now.code !== before.code) && isChanged(useThisOrder.getState())) asPlanned();
});

/** As an order of the contract in front carries it; undefined where nothing is different. */
export function thisOrder(plan: number | null): PlanChange | undefined {
    const state = useThisOrder.getState();
    if (plan === null || !isChanged(state)) return undefined;
    const portions = Object.entries(state.targets).map(([portion, target]) => ({ portion: Number(portion), target }));
    return { ...(state.stop !== null && { stop: state.stop }), ...(portions.length > 0 && { portions }) };
}

/** The order has taken it along: the one after it is as planned, unless something else has been chosen meanwhile. */
export function thisOrderSent(change: PlanChange): void {
    if (JSON.stringify(thisOrder(useChoices.getState().plan)) === JSON.stringify(change)) asPlanned();
}
