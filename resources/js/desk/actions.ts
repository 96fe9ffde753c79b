import { type CancelAnswer, command, type FlattenAnswer, type Order, Problem } from '@/api/client';
import { say } from '@/stream/store';
import { useChoices } from './choices';

/** Sends a command; a refusal is said in its own words. */
async function send<T>(what: Promise<T>, done?: (answer: T) => string): Promise<T | null> {
    try {
        const answer = await what;
        if (done) say(done(answer));
        return answer;
    } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (error.code === 'would-unprotect') throw error;
        say(error.message);
        return null;
    }
}

export interface Placement {
    side: Order['side'];
    kind: Order['kind'];
    price?: string;
    trigger?: string;
}

/** The order as the ghost said it: its kind and price are not decided again on the way. */
export function place(placement: Placement): void {
    const { account, code, lots, plan } = useChoices.getState();
    void send(command<Order>('POST', 'orders', { account: account?.id, contract: code, quantity: lots, exit_plan: plan, ...placement }));
}

export function flatten(): void {
    const { account, code } = useChoices.getState();
    void send(
        command<FlattenAnswer>('POST', `contracts/${code}/flatten`, { account: account?.id }),
        (answer) => `${code}: ${answer.contracts[0]?.words ?? 'nothing was open or working'}`,
    );
}

export function reverse(): void {
    const { account, code, plan } = useChoices.getState();
    void send(command('POST', `contracts/${code}/reverse`, { account: account?.id, exit_plan: plan }));
}

/** Puts the chosen plan on the open position. */
export function cover(): void {
    const { account, code, plan } = useChoices.getState();
    void send(command('POST', `contracts/${code}/exit-plan`, { account: account?.id, exit_plan: plan }));
}

export function cancelAll(): void {
    const { account, code } = useChoices.getState();
    void send(
        command<CancelAnswer>('POST', `contracts/${code}/cancel`, { account: account?.id }),
        (answer) => `${answer.cancelled.length} cancelled, ${answer.stops_kept} stops kept`,
    );
}

/** Cancels one order. Taking a stop off is asked about first: the caller catches `would-unprotect`. */
export async function cancel(order: Order, leaveUnprotected = false): Promise<void> {
    await send(command('DELETE', `orders/${order.id}`, { leave_unprotected: leaveUnprotected }));
}
