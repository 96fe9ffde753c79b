import { type CancelAnswer, type FlattenAnswer, type Order, type Orders, Problem, type StepsAnswer } from '@/api/client';
import type { Ground, OrderBody } from '@/model/basis';
import { keyFor, showKey } from '@/model/keymap';
import { dropPendingFor } from '@/model/pending';
import { countLots, tickOf } from '@/model/prices';
import { useSettings } from '@/model/settings';
import { whyNoLots } from '@/model/sizing';
import { thisOrderSent } from '@/model/thisOrder';
import { contractOf } from '@/model/writing';
import { STALE_AFTER_MS } from '@/stream/feed';

import { deskNow, say, silence } from '@/stream/store';
import { ask } from '@/ui/question';
import { begins, isGivenUp, type Standing, useBeingSent, wasDone, wasRefused } from './beingSent';
import { type Command, deliver, freeze } from './command';
import { WORDS } from './words';

/** Refusals that are a question: was it meant? */
const ASKED = ['would-unprotect', 'would-trade', 'would-open'];

/** Sends a command; a refusal is said in its own words. */
async function answered<T>(command: Command, done?: (answer: T) => string): Promise<T | null> {
    if (command.at) begins(command.id, command.at);
    try {
        const answer = await deliver<T>(command);
        wasDone(command.id, answer);
        const words = answer === null ? '' : done?.(answer);
        if (words) say(words, 'done');
        return answer;
    } catch (error) {
        const isAsked = !(error instanceof Problem) || ASKED.includes(error.code);
        wasRefused(command.id, isAsked ? '' : error.message);
        if (isAsked) throw error;
        say(error.message);
        return null;
    }
}

/** What closes, protects, moves or cancels. */
const post = (at: Ground, path: string, words: string, body: object = {}): Command =>
    freeze({ account: at.account, method: 'POST', path, body: { account: at.account, ...body }, words, opens: false });

const onContract = (at: Ground, what: string, words: string, body: object = {}): Command =>
    post(at, `contracts/${at.contract}/${what}`, `${words} · ${at.contract}`, body);

const onOrder = (order: Order, method: Command['method'], words: string, body: object = {}): Command =>
    freeze({ account: order.account, method, path: `orders/${order.id}`, body, words: `${words} order ${order.id}`, opens: false });

/** What waits for the venue's answer is done when it is here; the trader hears that it was not forgotten. */
function onTheWay({ waiting }: { waiting?: number[] }): string {
    return waiting && waiting.length > 0 ? WORDS.onTheWay(waiting.length) : '';
}

const gone = (answer: CancelAnswer): string =>
    [`${answer.cancelled.length} cancelled`, onTheWay(answer), WORDS.stopsKept(answer.stops_kept)]
        .filter((words) => words !== '')
        .join(', ');

const isFresh = (): boolean => {
    const { feed, fresh } = deskNow();
    return feed === 'live' && fresh && silence() <= STALE_AFTER_MS;
};

/** Nothing new goes out on what may be old; what closes, cancels or moves away is sent whatever the feed. */
export function hears(): boolean {
    if (!isFresh()) say(deskNow().feed === 'live' && silence() <= STALE_AFTER_MS ? WORDS.tabWasHidden : WORDS.feedNotLive);
    return isFresh();
}

/** How many lots the trader sends without a second look, where these are more; else null. */
export function lotsToConfirm(lots: number): number | null {
    const over = useSettings.getState().entry.confirm_over;
    return over !== null && lots > over ? over : null;
}

function confirmed(lots: number, words: string): Promise<boolean> {
    const over = lotsToConfirm(lots);
    if (over === null) return Promise.resolve(true);
    return new Promise((done) =>
        ask({
            title: 'Send so many lots?',
            words: WORDS.askSoManyLots(words, over),
            safe: "Don't send",
            leave: () => {
                say(WORDS.notConfirmed);
                done(false);
            },
            answers: [{ label: 'Send it', name: 'confirm', act: () => done(true) }],
        }),
    );
}

/**
 * Whatever opens is sent here: on a live picture, and many lots once they have been confirmed. null where it was not sent.
 *
 * @param takeBack what to do with it where it was given up on the way and had arrived
 */
async function open<T>(command: Command, lots: number, takeBack?: (sent: T) => void): Promise<T | null> {
    if (!hears() || !(await confirmed(lots, command.words)) || !hears()) return null;
    let isUnwanted = false;
    const stop = useBeingSent.subscribe(() => {
        isUnwanted ||= isGivenUp(command.id);
    });
    const sent = await answered<T>(command).finally(stop);
    if (isUnwanted && sent !== null) takeBack?.(sent);
    return sent;
}

/** Where an order stands while it is on its way; nowhere where it has no price. */
function standing({ contract: code, side, kind, quantity, price, trigger }: OrderBody): Standing | undefined {
    const contract = contractOf(code);
    const level = kind === 'limit' ? price : trigger;
    if (!contract || level === undefined) return undefined;
    return { does: 'place', contract: code, side, tick: tickOf(contract, level), lots: quantity, order: null };
}

/** An order in a few words, as a button would call it. */
export const wordsOf = ({ side, quantity, kind, contract, price, trigger }: OrderBody): string =>
    [side, quantity, kind === 'mit' ? 'MIT' : kind, trigger ?? price ?? '', `· ${contract}`].filter((word) => word !== '').join(' ');

/**
 * An order as it was shown: nothing of it is decided again on the way. null where it was refused, or not sent.
 *
 * @param id of the command, where somebody has to know it
 */
export async function place(body: OrderBody, id?: string): Promise<Order | null> {
    if (body.quantity === 0) {
        say(WORDS.notSent(whyNoLots()));
        return null;
    }
    const at = standing(body);
    const command = freeze({ account: body.account, method: 'POST', path: 'orders', body, words: wordsOf(body), opens: true, at }, id);
    const sent = await open<Order>(command, body.quantity, (order) => void cancel(order).catch((error: Error) => say(error.message)));
    if (sent) placed.set(body.contract, { body, level: sent.level });
    // What was different was for this order only; a refused one keeps it.
    if (sent && body.this_order) thisOrderSent(body.this_order);
    return sent;
}

/** What was placed last in each contract, and at which tick; null where it has none. */
const placed = new Map<string, { body: OrderBody; level: number | null }>();

export const lastPlaced = (contract: string) => placed.get(contract);

/** What is asked of a working order, as the API takes it. */
export interface OrderChange {
    price?: string;
    trigger?: string;
    /** of all that it was sent with, filled or not */
    quantity?: number;
    tif?: string;
    expires_at?: string;
    leave_unprotected?: boolean;
}

/**
 * Changes a working order: its level, its lots, what the list's fields take. The server says whether it is one to ask about first.
 *
 * @param through it may trade at once without a question: an exit may, an entry only where that was meant
 */
export async function change(order: Order, asked: OrderChange, through = order.role !== 'entry'): Promise<void> {
    const refuseIf = [...(through ? [] : ['would_trade']), ...(isFresh() ? [] : ['would_open'])];
    const body = { ...asked, ...(refuseIf.length > 0 && { refuse_if: refuseIf }) };
    const contract = contractOf(order.contract);
    const level = asked.trigger ?? asked.price;
    const at: Standing | undefined =
        contract && level !== undefined
            ? {
                  does: 'move',
                  contract: order.contract,
                  side: order.side,
                  tick: tickOf(contract, level),
                  lots: order.leaves,
                  order: order.id,
              }
            : undefined;
    const command = freeze({ ...onOrder(order, 'PATCH', 'Change', body), opens: order.role === 'entry', at });
    const raised = (asked.quantity ?? 0) > order.quantity ? (asked.quantity ?? 0) - order.filled : 0;
    if (!(await confirmed(raised, command.words))) return;
    try {
        await answered<Order>(command);
    } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (error.code === 'would-open') hears();
        else if (error.code === 'would-trade')
            ask({
                title: 'Trade now?',
                words: `${error.message.slice(0, 1).toUpperCase()}${error.message.slice(1)}.`,
                safe: WORDS.leaveAsItIs,
                answers: [{ label: 'Change it', name: 'change-through', act: () => void change(order, asked, true) }],
            });
        else
            ask({
                title: 'Change this stop?',
                words: WORDS.changingStopLeaves(countLots(Number(error.facts.unprotected))),
                safe: WORDS.leaveAsItIs,
                answers: [
                    {
                        label: 'Change it',
                        name: 'change-anyway',
                        act: () => void change(order, { ...asked, leave_unprotected: true }, through),
                    },
                ],
            });
    }
}

/** Moves a working order to another rung: a stop's level is its trigger. */
export const move = (order: Order, level: string, through?: boolean): void =>
    void change(order, order.kind === 'limit' ? { price: level } : { trigger: level }, through);

/** What an account has in other contracts, in words; empty where that is nothing. */
function openElsewhere({ contract }: Ground): string {
    const { positions } = deskNow();
    return Object.values(positions)
        .filter((position) => position.contract !== contract && position.quantity !== 0)
        .map((position) => `${position.contract} is ${position.words.toLowerCase()}`)
        .join(', ');
}

/** A contract with nothing open or working in it is not what was meant where another one has a position. */
export function flatten(at: Ground): Promise<unknown> {
    dropPendingFor(at.contract);
    const { orders, positions } = deskNow();
    const elsewhere = openElsewhere(at);
    const isIdle = (positions[at.contract]?.quantity ?? 0) === 0 && ![...orders.values()].some((order) => order.contract === at.contract);
    if (isIdle && elsewhere !== '') {
        say(WORDS.flatHere(at.contract, elsewhere, showKey(keyFor('flatten-account'))));
        return Promise.resolve(null);
    }
    return answered<FlattenAnswer>(
        onContract(at, 'flatten', 'Flatten'),
        (answer) => `${at.contract}: ${answer.contracts[0]?.words ?? WORDS.nothingOpen}`,
    );
}

/** It opens as much as it closes: on an old picture nobody knows how much that is. */
export async function reverse({ account, contract }: Ground, plan: number | null): Promise<unknown> {
    dropPendingFor(contract);
    if (!hears()) return null;
    const path = `contracts/${contract}/reverse`;
    const words = `reverse · ${contract}`;
    return answered(freeze({ account, method: 'POST', path, body: { account, exit_plan: plan }, words, opens: true }));
}

/** Stops that stand on the losing side go to the average, or as far beyond it as the fees take. */
export function breakEven(at: Ground, plusFees = false): Promise<unknown> {
    return answered<FlattenAnswer>(onContract(at, 'break-even', 'Stops to break-even', { plus_fees: plusFees }), onTheWay);
}

/** The portions of an entry that a command names: one by itself, or several together. */
export const portionsOf = (numbers: readonly number[]): { portion: number | undefined } | { portions: readonly number[] } =>
    numbers.length === 1 ? { portion: numbers[0] } : { portions: numbers };

/** One entry, or some of its portions, at the market. */
export function closePart(at: Ground, entry: number, portions?: readonly number[]): void {
    void answered(onContract(at, 'close', 'Close', { entry, ...(portions && portionsOf(portions)) }));
}

/** All that is open, at the market; what works to open more goes on working. */
export function closePosition(at: Ground): void {
    for (const { entry } of deskNow().positions[at.contract]?.entries ?? []) if (entry !== null) closePart(at, entry);
}

/** Orders of a position are named by their number alone. */
const byNumber = (at: Ground, id: number, method: Command['method'], words: string, body: object = {}): Command =>
    freeze({ account: at.account, method, path: `orders/${id}`, body, words: `${words} ${id}`, opens: false });

/** A target goes: its portion runs on under its stop. */
export function letRun(at: Ground, target: number): void {
    void answered(byNumber(at, target, 'DELETE', 'Take off target'));
}

/** A stop that is steered by hand goes back to its ratchets. */
export function giveBack(at: Ground, stop: number): void {
    void answered<Order>(byNumber(at, stop, 'PATCH', 'Return to plan: stop', { steering: 'plan' }));
}

/** What of a position comes next, as PHP says. */
const nextOf = ({ contract }: Ground) => deskNow().positions[contract]?.next;

/** The first portion; before that whatever its stop-limit has left behind, all of it. */
export function closeFirstPortion(at: Ground): void {
    const next = nextOf(at)?.close ?? [];
    if (next.length === 0) say(WORDS.noOpenPortion);
    for (const { entry, portion } of next) closePart(at, entry, [portion]);
}

export function closeFirstEntry(at: Ground): void {
    const entry = nextOf(at)?.entry;
    if (entry) closePart(at, entry);
    else say(WORDS.noOpenEntry);
}

/** Of the portions that have a target, the one whose turn comes first. */
export function letNextRun(at: Ground): void {
    const target = nextOf(at)?.run;
    if (target) letRun(at, target);
    else say(WORDS.noTargetToTakeOff);
}

export function giveAllBack(at: Ground): void {
    const stops = nextOf(at)?.back ?? [];
    if (stops.length === 0) say(WORDS.noStopByHand);
    for (const stop of stops) giveBack(at, stop);
}

/** Closes half at the market. */
export function halfOff(at: Ground): Promise<unknown> {
    dropPendingFor(at.contract);
    return answered(onContract(at, 'half-off', 'Half off'));
}

/** Puts a plan on the open position, or takes off what is there (null); asks where lots would close or stand bare. */
export async function cover(at: Ground, plan: number | null, more: object = {}): Promise<void> {
    // The alarm's lots alone: a stop that has come nearer elsewhere does not go back for them.
    const only = plan !== null && (deskNow().positions[at.contract]?.bare ?? 0) > 0 ? { only: 'unprotected' } : {};
    const doubt = (words: string, label: string, then: object) =>
        ask({
            title: 'Put this plan on?',
            words,
            safe: WORDS.leaveAsItIs,
            answers: [{ label, name: 'cover-anyway', act: () => void cover(at, plan, { ...more, ...then }) }],
        });
    try {
        const { kept } = await deliver<FlattenAnswer>(
            onContract(at, 'exit-plan', plan === null ? 'Take the plan off' : 'Put the plan on', { exit_plan: plan, ...only, ...more }),
        );
        if (kept)
            ask({
                title: 'Loosen stops?',
                words: WORDS.keepsStops(kept.lots, `${kept.money} ${kept.currency}`),
                safe: 'Keep them',
                answers: [{ label: 'Loosen them', name: 'loosen', act: () => void cover(at, plan, { ...more, loosen: kept.money }) }],
            });
    } catch (error) {
        if (!(error instanceof Problem)) throw error;
        const lots = () => countLots(Number(error.facts.unprotected));
        if (error.code === 'would-unprotect' && plan === null)
            doubt(WORDS.removingPlanLeaves(lots()), 'Remove plan', { leave_unprotected: true });
        else if (error.code === 'would-unprotect') doubt(WORDS.planLeavesBare(lots()), 'Put it on', { leave_unprotected: true });
        else if (error.code === 'stop-passed' && error.message.includes('close_now'))
            doubt(WORDS.marketHasPassed, 'Close those lots now', { close_now: true });
        else say(error.message);
    }
}

/** Entries and hand-made orders of a contract, or of one side; the stops stay. */
export function cancelAll(at: Ground, sides?: Order['side'][]): Promise<unknown> {
    return answered<CancelAnswer>(onContract(at, 'cancel', 'Cancel all', sides && { sides }), gone);
}

export function cancelAccount(at: Ground): void {
    void answered<CancelAnswer>(post(at, `accounts/${at.account}/cancel`, 'Cancel all contracts'), (answer) =>
        WORDS.allContracts(gone(answer)),
    );
}

/** Every contract of the account. */
export function flattenAccount(at: Ground): void {
    dropPendingFor(null);
    void answered<FlattenAnswer>(post(at, `accounts/${at.account}/flatten`, 'Flatten all contracts'), ({ contracts }) =>
        contracts.length === 0 ? WORDS.nothingOpenAnywhere : contracts.map((one) => `${one.contract}: ${one.words}`).join(', '),
    );
}

/** Every stop of the position so many ticks nearer to the market. */
export function tighten(at: Ground, ticks: number): Promise<unknown> {
    return answered<FlattenAnswer>(onContract(at, 'tighten', 'Stops closer', { ticks }), onTheWay);
}

export function tie(at: Ground, first: number, second: number): void {
    void answered<Orders>(post(at, 'orders/tie', WORDS.tieOrders(first, second), { orders: [first, second] }), () =>
        WORDS.areTied(first, second),
    );
}

export function untie(order: Order): void {
    const { account, id } = order;
    const command = freeze({ account, method: 'POST', path: `orders/${id}/untie`, body: {}, words: WORDS.untieOrder(id), opens: false });
    void answered<Orders>(command, () => WORDS.noLongerTied(id));
}

/** Two orders, checked together and placed together: one cancels the other. */
export async function placePair(bodies: readonly [OrderBody, OrderBody], id?: string): Promise<Orders | null> {
    const [{ account }] = bodies;
    const orders = bodies.map(({ account: _account, ...order }) => order);
    const words = bodies.map(wordsOf).join(' or ');
    const command = freeze({ account, method: 'POST', path: 'orders/pair', body: { account, orders }, words, opens: true }, id);
    const sent = await open<Orders>(command, Math.max(...bodies.map(({ quantity }) => quantity)));
    const changed = bodies.find((body) => body.this_order);
    if (sent && changed?.this_order) thisOrderSent(changed.this_order);
    return sent;
}

/** Cancels one order, and with `tied` the one that it is tied to. Taking a stop off is asked about first: the caller catches `would-unprotect`. */
export async function cancel(order: Order, { leaveUnprotected = false, tied = false } = {}): Promise<void> {
    const command = onOrder(order, 'DELETE', 'Cancel', { leave_unprotected: leaveUnprotected, tied });
    const { id, contract, side, level, leaves } = order;
    const at: Standing | undefined = level === null ? undefined : { does: 'cancel', contract, side, tick: level, lots: leaves, order: id };
    await answered(freeze({ ...command, at }));
}

/** One step of an action key as it goes out. */
export interface KeyStep {
    do: string;
    order?: Omit<OrderBody, 'account' | 'contract'>;
    exit_plan?: number | null;
    ticks?: number;
}

/** The steps of an action key, as one command: checked together, then taken one after the other. null where they were refused. */
export async function runSteps({ account, contract }: Ground, name: string, steps: KeyStep[], words: string): Promise<StepsAnswer | null> {
    const opens = steps.some((step) => step.do === 'order' || step.do === 'reverse');
    const body = { account, name, steps };
    const command = freeze({ account, method: 'POST', path: `contracts/${contract}/steps`, body, words: `${name}: ${words}`, opens });
    if (opens && !hears()) return null;
    const sent = await answered<StepsAnswer>(command);
    for (const step of sent ? steps : []) if (step.order?.this_order) thisOrderSent(step.order.this_order);
    return sent;
}

/** A stop or a target as it was typed at a portion of the position. */
export function typeExit(
    at: Ground,
    role: 'stop' | 'target',
    typed: { by: 'ticks' | 'money' | 'price'; value: string; entry: number } & ReturnType<typeof portionsOf>,
): void {
    void answered(onContract(at, 'exit', WORDS.setExit(role), { role, ...typed }));
}

/** A stop or a target at a level (or both as a pair, the second at `other`), for the lots of the position that have none; where all have one, all go there. */
export function setExit(at: Ground, role: 'stop' | 'target', level: string, other?: string): void {
    const pair = role === 'stop' ? { stop: level, target: other } : { stop: other, target: level };
    void answered(onContract(at, 'exit', WORDS.setExit(role), other === undefined ? { role, level } : pair));
}
