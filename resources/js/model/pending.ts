import { create } from 'zustand';
import { say } from '@/stream/store';
import type { OrderBody } from './basis';
import { useChoices } from './choices';
import { WORDS } from './words';

/** How long an order waits: after that the market is another one than it was meant for, ms. */
const WAITS_MS = 30_000;

/** A draft without a price, which has no rung to stand at: it waits above the ladder for Enter or Esc. */
export const usePending = create<{ pending: OrderBody | null }>(() => ({ pending: null }));

let timer = 0;

export function letWait(order: OrderBody): void {
    window.clearTimeout(timer);
    timer = window.setTimeout(() => dropPending(WORDS.waitedTooLong), WAITS_MS);
    usePending.setState({ pending: order });
}

/** To be sent: nothing waits any more. */
export function takePending(): OrderBody | null {
    const { pending } = usePending.getState();
    window.clearTimeout(timer);
    usePending.setState({ pending: null });
    return pending;
}

export function dropPending(why = WORDS.dropped): void {
    if (takePending()) say(why, 'done');
}

/** What is done to a position is not what an order was made for that waits beside it. @param contract null for all */
export function dropPendingFor(contract: string | null): void {
    const { pending } = usePending.getState();
    if (pending && (contract === null || contract === pending.contract)) dropPending();
}

useChoices.subscribe((now, before) => {
    if (now.code !== before.code) dropPending();
});
