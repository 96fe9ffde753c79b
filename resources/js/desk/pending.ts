import { create } from 'zustand';
import { say } from '@/stream/store';
import { send } from './actions';
import type { OrderBody } from './basis';

/** An order over the trader's own number of lots: it waits for Enter. */
export const usePending = create<{ pending: OrderBody | null }>(() => ({ pending: null }));

export function confirmPending(): void {
    const { pending } = usePending.getState();
    usePending.setState({ pending: null });
    if (pending) void send(pending);
}

export function dropPending(): void {
    usePending.setState({ pending: null });
    say('Not sent: it was not confirmed.');
}
