import { create } from 'zustand';
import { type CancelAnswer, command, type FlattenAnswer, type Order, type Orders, Problem } from '@/api/client';
import { bareLots, say, useDesk } from '@/stream/store';
import { useChoices } from './choices';
import { type Pending, usePending } from './pending';
import { countLots } from './prices';
import { useSettings } from './settings';
import { asPlanned, thisOrder } from './thisOrder';

/** Sends a command; a refusal is said in its own words. */
export async function answered<T>(what: Promise<T>, done?: (answer: T) => string): Promise<T | null> {
    try {
        const answer = await what;
        const words = done?.(answer);
        if (words) say(words, 'done');
        return answer;
    } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (error.code === 'would-unprotect') throw error;
        say(error.message);
        return null;
    }
}

/** What waits for the venue's answer is done when it is here; the trader hears that it was not forgotten. */
function onTheWay({ waiting }: { waiting?: number[] }): string {
    return waiting && waiting.length > 0 ? `${waiting.length} on the way: done as soon as the venue answers` : '';
}

const gone = (answer: CancelAnswer): string =>
    [`${answer.cancelled.length} cancelled`, onTheWay(answer), `${answer.stops_kept} stops kept`]
        .filter((words) => words !== '')
        .join(', ');

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
export function bodyOf(
    { side, kind, price, trigger }: Placement,
    contract: string,
    quantity: number,
    plan: number | null,
    more: More = {},
) {
    const { tag } = useChoices.getState();
    const change = thisOrder(plan);
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
        ...(change && { this_order: change }),
        ...more,
    };
}

/** Nothing new goes out on what may be old; what closes, cancels or moves is sent whatever the feed. */
export function hears(): boolean {
    const { feed, fresh } = useDesk.getState();
    if (feed !== 'live') say('Not sent: the feed is not live.');
    else if (!fresh) say('Not sent: this tab was hidden and has not heard from the engine since.');
    return feed === 'live' && fresh;
}

/** An order as it was shown: its kind and price are not decided again on the way. null where it was refused, or not sent. */
export function send(placement: Placement, contract: string, lots: number, plan: number | null, more: More = {}): Promise<Order | null> {
    if (!hears()) return Promise.resolve(null);
    const account = useChoices.getState().account?.id;
    const body = bodyOf(placement, contract, lots, plan, more);
    // What was different was for this order only.
    if (body.this_order) asPlanned();
    return answered(command<Order>('POST', 'orders', { account, ...body }));
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

/** It opens as much as it closes: on an old picture nobody knows how much that is. */
export function reverse(): void {
    if (!hears()) return;
    const { account, code, plan } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/reverse`, { account: account?.id, exit_plan: plan }));
}

/** Stops that stand on the losing side go to the average, or as far beyond it as the fees take. */
export function breakEven(plusFees = false): void {
    const { account, code } = useChoices.getState();
    void answered(command<FlattenAnswer>('POST', `contracts/${code}/break-even`, { account: account?.id, plus_fees: plusFees }), onTheWay);
}

/** One entry, or one portion of it, at the market. */
export function closePart(entry: number, portion?: number): void {
    const { account, code } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/close`, { account: account?.id, entry, ...(portion !== undefined && { portion }) }));
}

/** A target goes: its portion runs on under its stop. */
export function letRun(target: number): void {
    void answered(command('DELETE', `orders/${target}`));
}

/** A stop that is steered by hand goes back to its ratchets. */
export function giveBack(stop: number): void {
    void answered(command<Order>('PATCH', `orders/${stop}`, { steering: 'plan' }));
}

/** The portions of the position in front, oldest entry first. */
function portions() {
    const { code } = useChoices.getState();
    return (useDesk.getState().positions[code]?.entries ?? []).flatMap((entry) =>
        entry.portions.map((portion) => ({ entry: entry.entry, ...portion })),
    );
}

/** The first portion; before that whatever its stop-limit has left behind, all of it. */
export function closeFirstPortion(): void {
    const behind = portions().filter((portion) => portion.left_behind);
    const first = portions()[0];
    if (behind.length > 0) for (const { entry, portion } of behind) closePart(entry, portion);
    else if (first) closePart(first.entry, first.portion);
    else say('There is no open portion to close.');
}

export function closeFirstEntry(): void {
    const first = portions()[0];
    if (first) closePart(first.entry);
    else say('There is no open entry to close.');
}

/** Of the portions that have a target, the one whose turn comes first. */
export function letNextRun(): void {
    const next = portions().find((portion) => portion.target_order !== null);
    if (next?.target_order) letRun(next.target_order);
    else say('No portion has a target that could be taken off.');
}

export function giveAllBack(): void {
    const hands = portions().filter((portion) => portion.steering === 'hand' && portion.back_words !== null && portion.stop_order !== null);
    if (hands.length === 0) say('No stop is steered by hand.');
    for (const portion of hands) giveBack(portion.stop_order as number);
}

/** Closes half at the market. */
export function halfOff(): void {
    const { account, code } = useChoices.getState();
    void answered(command('POST', `contracts/${code}/half-off`, { account: account?.id }));
}

/** What is asked about a plan that is put on or taken off: the server refused it at first, and says why. */
export const useCoverDoubt = create<{ doubt: { words: string; yes: string; plan: number | null; more: object } | null }>(() => ({
    doubt: null,
}));

/** Puts the chosen plan on the open position, or takes off what is there (null); asks where lots would close or stand bare. */
export async function cover(plan: number | null = useChoices.getState().plan, more: object = {}): Promise<void> {
    const { account, code } = useChoices.getState();
    try {
        // The alarm's lots alone: a stop that has come nearer elsewhere does not go back for them.
        const only = plan !== null && bareLots(useDesk.getState().positions[code]) > 0 ? { only: 'unprotected' } : {};
        await command('POST', `contracts/${code}/exit-plan`, { account: account?.id, exit_plan: plan, ...only, ...more });
    } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (error.code === 'would-unprotect' && plan === null) {
            useCoverDoubt.setState({
                doubt: {
                    words: `Taking the plan off leaves ${countLots(Number(error.facts.unprotected))} unprotected.`,
                    yes: 'Take it off',
                    plan,
                    more: { ...more, leave_unprotected: true },
                },
            });
        } else if (error.code === 'would-unprotect') {
            useCoverDoubt.setState({
                doubt: {
                    words: `This plan leaves ${countLots(Number(error.facts.unprotected))} without a stop.`,
                    yes: 'Put it on',
                    plan,
                    more: { ...more, leave_unprotected: true },
                },
            });
        } else if (error.code === 'stop-passed' && error.message.includes('close_now')) {
            useCoverDoubt.setState({
                doubt: {
                    words: 'The market has passed where this plan has its stop.',
                    yes: 'Close those lots now',
                    plan,
                    more: { ...more, close_now: true },
                },
            });
        } else say(error.message);
    }
}

/** Entries and hand-made orders of this contract, or of one side; the stops stay. */
export function cancelAll(sides?: Order['side'][]): void {
    const { account, code } = useChoices.getState();
    void answered(command<CancelAnswer>('POST', `contracts/${code}/cancel`, { account: account?.id, ...(sides && { sides }) }), gone);
}

export function cancelAccount(): void {
    const { account } = useChoices.getState();
    void answered(
        command<CancelAnswer>('POST', `accounts/${account?.id}/cancel`, { account: account?.id }),
        (answer) => `all contracts: ${gone(answer)}`,
    );
}

/** Every stop of the position so many ticks nearer to the market. */
export function tighten(ticks: number): void {
    const { account, code } = useChoices.getState();
    void answered(command<FlattenAnswer>('POST', `contracts/${code}/tighten`, { account: account?.id, ticks }), onTheWay);
}

export function tie(first: number, second: number): void {
    const { account } = useChoices.getState();
    void answered(
        command<Orders>('POST', 'orders/tie', { account: account?.id, orders: [first, second] }),
        () => `Orders ${first} and ${second} are tied.`,
    );
}

export function untie(order: Order): void {
    void answered(command<Orders>('POST', `orders/${order.id}/untie`), () => `Order ${order.id} is no longer tied.`);
}

/** Two orders, checked together and placed together: one cancels the other. */
export function placePair(bodies: object[]): Promise<Orders | null> {
    if (!hears()) return Promise.resolve(null);
    const { account } = useChoices.getState();
    return answered(command<Orders>('POST', 'orders/pair', { account: account?.id, orders: bodies }));
}

/** Cancels one order, and with `tied` the one that it is tied to. Taking a stop off is asked about first: the caller catches `would-unprotect`. */
export async function cancel(order: Order, { leaveUnprotected = false, tied = false } = {}): Promise<void> {
    await answered(command('DELETE', `orders/${order.id}`, { leave_unprotected: leaveUnprotected, tied }));
}

/** A stop or a target at a level (or both as a pair, the second at `other`), for the lots of the position that have none; where all have one, all go there. */
export function setExit(role: 'stop' | 'target', level: string, other?: string): void {
    const { account, code } = useChoices.getState();
    const pair = role === 'stop' ? { stop: level, target: other } : { stop: other, target: level };
    void answered(command('POST', `contracts/${code}/exit`, { account: account?.id, ...(other === undefined ? { role, level } : pair) }));
}
