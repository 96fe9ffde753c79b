import { type CancelAnswer, command, type FlattenAnswer, type Order, Problem } from '@/api/client';
import { say } from '@/stream/store';
import { useChoices } from './choices';

/** Sends a command; a refusal is said in its own words. */
export async function answered<T>(what: Promise<T>, done?: (answer: T) => string): Promise<T | null> {
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

/** An order as it was shown: its kind and price are not decided again on the way. null where it was refused. */
export function send({ side, kind, price, trigger }: Placement, contract: string, lots: number, plan: number | null): Promise<Order | null> {
    const account = useChoices.getState().account?.id;
    const level = price !== undefined ? { price } : trigger !== undefined ? { trigger } : {};
    return answered(command<Order>('POST', 'orders', { account, contract, side, kind, quantity: lots, exit_plan: plan, ...level }));
}

/** At once, with the lots and the plan that are chosen. */
export function place(placement: Placement): void {
    const { code, lots, plan } = useChoices.getState();
    void send(placement, code, lots, plan);
}

/** Moves a working order to another rung: a stop's level is its trigger. */
export function move(order: Order, level: string): void {
    const change = order.kind === 'stop' || order.kind === 'stop-limit' ? { trigger: level } : { price: level };
    void answered(command<Order>('PATCH', `orders/${order.id}`, change));
}

export function flatten(): void {
    const { account, code } = useChoices.getState();
    void answered(
        command<FlattenAnswer>('POST', `contracts/${code}/flatten`, { account: account?.id }),
        (answer) => `${code}: ${answer.contracts[0]?.words ?? 'nothing was open or working'}`,
    );
}

export function reverse(): void {
    const { account, code, plan } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/reverse`, { account: account?.id, exit_plan: plan }));
}

/** Stops that stand on the losing side go to the average. */
export function breakEven(): void {
    const { account, code } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/break-even`, { account: account?.id }));
}

/** Closes half at the market. */
export function halfOff(): void {
    const { account, code } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/half-off`, { account: account?.id }));
}

/** Puts the chosen plan on the open position. */
export function cover(): void {
    const { account, code, plan } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/exit-plan`, { account: account?.id, exit_plan: plan }));
}

export function cancelAll(): void {
    const { account, code } = useChoices.getState();
    void answered(
        command<CancelAnswer>('POST', `contracts/${code}/cancel`, { account: account?.id }),
        (answer) => `${answer.cancelled.length} cancelled, ${answer.stops_kept} stops kept`,
    );
}

/** Cancels one order. Taking a stop off is asked about first: the caller catches `would-unprotect`. */
export async function cancel(order: Order, leaveUnprotected = false): Promise<void> {
    await answered(command('DELETE', `orders/${order.id}`, { leave_unprotected: leaveUnprotected }));
}

/** A stop or a target at a level, for the lots of the position that have none; where all have one, all go there. */
export function setExit(role: 'stop' | 'target', level: string): void {
    const { account, code } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/exit`, { account: account?.id, role, level }));
}
