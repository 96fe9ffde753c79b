import { type CancelAnswer, command, type FlattenAnswer, type Order, type Orders, Problem } from '@/api/client';
import { say } from '@/stream/store';
import { useChoices } from './choices';
import { type Pending, usePending } from './pending';
import { useSettings } from './settings';

/** Sends a command; a refusal is said in its own words. */
export async function answered<T>(what: Promise<T>, done?: (answer: T) => string): Promise<T | null> {
    try {
        const answer = await what;
        if (done) say(done(answer), 'done');
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

/** What goes with an order beyond its price: a ticket's durations and times, an action key's name. */
export interface More {
    tif?: Order['tif'];
    expires_at?: string;
    release_at?: string;
    cancel_at?: string;
    condition?: { contract: string; price: string; last: 'at-or-above' | 'at-or-below' };
    after?: number;
    closing?: 'through';
    via?: string;
}

/** An order as the API takes it, with the tag and the duration that are chosen for its contract. */
export function bodyOf({ side, kind, price, trigger }: Placement, contract: string, quantity: number, plan: number | null, more: More = {}) {
    const { tag } = useChoices.getState();
    const tif = kind === 'market' ? undefined : useSettings.getState().entry.contracts[contract]?.tif;
    return {
        contract,
        side,
        kind,
        quantity,
        exit_plan: plan,
        ...(price !== undefined && { price }),
        ...(trigger !== undefined && { trigger }),
        ...(tag !== '' && { tag }),
        ...(tif && { tif }),
        ...more,
    };
}

/** An order as it was shown: its kind and price are not decided again on the way. null where it was refused. */
export function send(placement: Placement, contract: string, lots: number, plan: number | null, more: More = {}): Promise<Order | null> {
    const account = useChoices.getState().account?.id;
    return answered(command<Order>('POST', 'orders', { account, ...bodyOf(placement, contract, lots, plan, more) }));
}

/** With the lots and the plan that are chosen: at once, or once more lots than the trader set have been confirmed. */
export function place(placement: Placement, more: More = {}): void {
    const { code, lots, plan } = useChoices.getState();
    confirmed({ placement, code, lots, plan, more });
}

function confirmed(order: Pending): void {
    const over = useSettings.getState().entry.confirm_over;
    if (over !== null && order.lots > over) usePending.setState({ pending: order });
    else void send(order.placement, order.code, order.lots, order.plan, order.more);
}

/** Moves a working order to another rung: a stop's level is its trigger. */
export function move(order: Order, level: string): void {
    const change = order.kind === 'limit' ? { price: level } : { trigger: level };
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

/** Entries and hand-made orders of this contract, or of one side; the stops stay. */
export function cancelAll(sides?: Order['side'][]): void {
    const { account, code } = useChoices.getState();
    void answered(
        command<CancelAnswer>('POST', `contracts/${code}/cancel`, { account: account?.id, ...(sides && { sides }) }),
        (answer) => `${answer.cancelled.length} cancelled, ${answer.stops_kept} stops kept`,
    );
}

export function cancelAccount(): void {
    const { account } = useChoices.getState();
    void answered(
        command<CancelAnswer>('POST', `accounts/${account?.id}/cancel`, { account: account?.id }),
        (answer) => `all contracts: ${answer.cancelled.length} cancelled, ${answer.stops_kept} stops kept`,
    );
}

/** Every stop of the position so many ticks nearer to the market. */
export function tighten(ticks: number): void {
    const { account, code } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/tighten`, { account: account?.id, ticks }));
}

export function tie(first: number, second: number): void {
    const { account } = useChoices.getState();
    void answered(command<Orders>('POST', 'orders/tie', { account: account?.id, orders: [first, second] }), () => `Orders ${first} and ${second} are tied.`);
}

export function untie(order: Order): void {
    void answered(command<Orders>('POST', `orders/${order.id}/untie`), () => `Order ${order.id} is no longer tied.`);
}

/** Two orders, checked together and placed together: one cancels the other. */
export function placePair(bodies: object[]): Promise<Orders | null> {
    const { account } = useChoices.getState();
    return answered(command<Orders>('POST', 'orders/pair', { account: account?.id, orders: bodies }));
}

/** Cancels one order, and with `tied` the one that it is tied to. Taking a stop off is asked about first: the caller catches `would-unprotect`. */
export async function cancel(order: Order, { leaveUnprotected = false, tied = false } = {}): Promise<void> {
    await answered(command('DELETE', `orders/${order.id}`, { leave_unprotected: leaveUnprotected, tied }));
}

/** A stop or a target at a level, for the lots of the position that have none; where all have one, all go there. */
export function setExit(role: 'stop' | 'target', level: string): void {
    const { account, code } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/exit`, { account: account?.id, role, level }));
}
