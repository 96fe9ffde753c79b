import type { Order } from '@/api/client';
import type { Book } from '@/stream/store';
import { price, type Scaled } from './prices';

/** PHP's table: which order a click means, by how far the rung lies beyond the touch. */
interface Row {
    up_to: number | null;
    plain: Order['kind'];
    shift: Order['kind'] | null;
    alt_shift: Order['kind'] | null;
    /** how far a stop-limit's limit stands beyond its trigger, in ticks */
    limit_ticks: number;
}

const table: Row[] = JSON.parse(document.getElementById('click-table')?.textContent ?? '[]');

export interface ClickModifiers {
    shift: boolean;
    alt: boolean;
}

/** null where the modifier has no meaning at this rung. */
export function kindOfClick(side: Order['side'], tick: number, book: Book, { shift, alt }: ClickModifiers): Order['kind'] | null {
    const touch = (side === 'buy' ? book.bestAsk : book.bestBid) ?? book.last?.price ?? tick;
    const beyond = side === 'buy' ? tick - touch : touch - tick;
    const row = table.find((candidate) => candidate.up_to === null || beyond <= candidate.up_to);
    return (shift ? (alt ? row?.alt_shift : row?.shift) : row?.plain) ?? null;
}

const LIMIT_TICKS = table[0]?.limit_ticks ?? 0;

export const PLAIN: ClickModifiers = { shift: false, alt: false };

/** Where a click at a rung puts an order: a stop's level is its trigger, a stop-limit's limit stands a little beyond it. */
export function levelOf(
    contract: Scaled,
    kind: Order['kind'],
    tick: number,
    side: Order['side'],
): { kind: Order['kind']; price?: string; trigger?: string } {
    const level = price(contract, tick);
    if (kind === 'limit') return { kind, price: level };
    if (kind === 'stop-limit')
        return { kind, trigger: level, price: price(contract, tick + (side === 'buy' ? LIMIT_TICKS : -LIMIT_TICKS)) };
    return { kind, trigger: level };
}
