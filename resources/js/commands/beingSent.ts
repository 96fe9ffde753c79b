import { create } from 'zustand';
import type { Order } from '@/api/client';
import { live } from '@/stream/store';

/** Where a command stands on the ladder, and what it is about. */
export interface Standing {
    does: 'place' | 'move' | 'cancel';
    contract: string;
    side: Order['side'];
    /** where it will stand; of a cancel, where it stands */
    tick: number;
    lots: number;
    /** the order that is changed; null for a new one */
    order: number | null;
}

interface BeingSent extends Standing {
    /** of the command */
    id: string;
    /** below zero, and never twice: orders and drafts are numbered from one up */
    number: number;
    /** why it was refused; empty while it is under way */
    refusal: string;
    isGivenUp: boolean;
}

/** Commands that have been pressed and of which nothing is known yet, and refusals that were just heard: drawn at their rungs. */
export const useBeingSent = create<{ list: readonly BeingSent[] }>(() => ({ list: [] }));

/** An answer is here before the stream has told of it, but hardly by so much, ms. */
const TELLS_MS = 1000;
/** How long a refusal stands at its rung, ms. */
const REFUSED_MS = 4000;

let lastNumber = 0;

const find = (id: string) => useBeingSent.getState().list.find((one) => one.id === id);
const drop = (id: string): void => useBeingSent.setState(({ list }) => ({ list: list.filter((one) => one.id !== id) }));
const change = (id: string, part: Partial<BeingSent>): void =>
    useBeingSent.setState(({ list }) => ({ list: list.map((one) => (one.id === id ? { ...one, ...part } : one)) }));

export function begins(id: string, at: Standing): void {
    useBeingSent.setState(({ list }) => ({ list: [...list, { ...at, id, number: --lastNumber, refusal: '', isGivenUp: false }] }));
}

/** Whether what stands at its rung now is the order itself, and no longer the command. */
export function isTold(
    { does, tick, order, id }: Pick<BeingSent, 'does' | 'tick' | 'order' | 'id'>,
    orders: ReadonlyMap<number, Order>,
): boolean {
    if (does === 'place') return [...orders.values()].some((one) => one.client_id === id);
    const known = order === null ? undefined : orders.get(order);
    return known === undefined || (does === 'move' ? known.level === tick : known.state === 'pending-cancel');
}

/** It was done: the stream tells how the order stands now, and until then its chip is the command's. */
export function wasDone(id: string, answer: unknown): void {
    const sent = find(id);
    if (!sent) return;
    const placed = sent.does === 'place' ? (answer as Order | null)?.id : undefined;
    const knows = () => {
        const { orders, fills } = live.useDesk.getState();
        return isTold(sent, orders) || fills.some((fill) => fill.order === placed);
    };
    if (knows()) return drop(id);
    const end = () => {
        stop();
        window.clearTimeout(timer);
        drop(id);
    };
    const stop = live.useDesk.subscribe(() => knows() && end());
    const timer = window.setTimeout(end, TELLS_MS);
}

/** It was refused, or never arrived: its rung says why for a while. */
export function wasRefused(id: string, why: string): void {
    if (!find(id)) return;
    if (why === '') return drop(id);
    change(id, { refusal: why });
    window.setTimeout(() => drop(id), REFUSED_MS);
}

/** The trader does not want it any more: it is not sent again, and cancelled where it had arrived. */
export const giveUp = (id: string): void => change(id, { isGivenUp: true });

export const isGivenUp = (id: string): boolean => find(id)?.isGivenUp ?? false;
