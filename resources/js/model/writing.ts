import type { Contract, Order } from '@/api/client';
import { deskNow } from '@/stream/store';
import { useChoices } from './choices';
import { writePrice } from './prices';

/** Time to the millisecond, UTC. */
export const clock = (time: string): string => time.slice(11, 23);

const MONTHS = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ');

/** The same where it is of the market's day; of another day with its date, to the second. */
export function moment(time: string): string {
    const now = deskNow().clock?.at ?? Date.now();
    if (new Date(now).toISOString().startsWith(time.slice(0, 10))) return clock(time);
    return `${time.slice(8, 10)} ${MONTHS[Number(time.slice(5, 7)) - 1]} ${time.slice(11, 19)}`;
}

export const kindOf = (order: Order): string => `${order.side === 'buy' ? 'Buy' : 'Sell'} ${order.kind}`;

export const contractOf = (code: string): Contract | undefined => useChoices.getState().contracts.find((listed) => listed.code === code);

/** A level of any contract as that contract writes its prices. */
export function priceOf(code: string, tick: number | null): string {
    const contract = contractOf(code);
    return contract && tick !== null ? writePrice(contract, tick) : '—';
}
