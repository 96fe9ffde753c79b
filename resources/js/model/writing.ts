import type { Contract, Order } from '@/api/client';
import { useChoices } from './choices';
import { writePrice } from './prices';

/** Time to the millisecond, UTC. */
export const clock = (time: string): string => time.slice(11, 23);

export const kindOf = (order: Order): string => `${order.side === 'buy' ? 'Buy' : 'Sell'} ${order.kind}`;

export const contractOf = (code: string): Contract | undefined => useChoices.getState().contracts.find((listed) => listed.code === code);

/** A level of any contract as that contract writes its prices. */
export function priceOf(code: string, tick: number | null): string {
    const contract = contractOf(code);
    return contract && tick !== null ? writePrice(contract, tick) : '—';
}
