import { create } from 'zustand';
import type { OrderBody } from '@/model/basis';
import { say } from '@/stream/store';
import { place } from './actions';

/** A draft without a price, which has no rung to stand at: it waits above the ladder for Enter or Esc. */
export const usePending = create<{ pending: OrderBody | null }>(() => ({ pending: null }));

export function confirmPending(): void {
    const { pending } = usePending.getState();
    usePending.setState({ pending: null });
    if (pending) void place(pending);
}

export function dropPending(): void {
    usePending.setState({ pending: null });
    say('Dropped: nothing was sent.', 'done');
}
