import type { Order } from '@/api/client';
import type { Book } from '@/stream/store';

/** PHP's table: which order a click means, by how far the rung lies beyond the touch. */
interface Row {
    up_to: number | null;
    plain: Order['kind'];
    shift: Order['kind'] | null;
}

const table: Row[] = JSON.parse(document.getElementById('click-table')?.textContent ?? '[]');

/** null where the modifier has no meaning at this rung. */
export function kindOfClick(side: Order['side'], tick: number, book: Book, shift: boolean): Order['kind'] | null {
    const touch = (side === 'buy' ? book.bestAsk : book.bestBid) ?? book.last?.price ?? tick;
    const beyond = side === 'buy' ? tick - touch : touch - tick;
    const row = table.find((candidate) => candidate.up_to === null || beyond <= candidate.up_to);
    return (shift ? row?.shift : row?.plain) ?? null;
}
