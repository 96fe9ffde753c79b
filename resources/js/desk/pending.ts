import { create } from 'zustand';
import { say } from '@/stream/store';
import { type More, type Placement, send } from './actions';

/** An order over the trader's own number of lots: it waits for Enter. */
export interface Pending {
    placement: Placement;
    code: string;
    lots: number;
    plan: number | null;
    more: More;
}

export const usePending = create<{ pending: Pending | null }>(() => ({ pending: null }));

export function confirmPending(): void {
    const { pending } = usePending.getState();
    usePending.setState({ pending: null });
    if (pending) void send(pending.placement, pending.code, pending.lots, pending.plan, pending.more);
}

export function dropPending(): void {
    usePending.setState({ pending: null });
    say('Not sent: it was not confirmed.');
}
