import type { Order } from '@/api/client';
import type { Book } from '@/stream/store';

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

export const LIMIT_TICKS = table[0]?.limit_ticks ?? 0;

export const PLAIN: ClickModifiers = { shift: false, alt: false };
