import type { Contract, Order, Position, Preview } from '@/api/client';
import { useDesk } from '@/stream/store';
import { pnlAt, writeExact, writeMoney, writePrice } from './prices';
import type { RungNote } from './Rung';
import type { Drag } from './useDrag';

const opposite = (side: Order['side']): Order['side'] => (side === 'buy' ? 'sell' : 'buy');

/** The ghost's exits to be, by rung. */
export function exitNotes(exits: Preview['exits'], entry: Order['side'], contract: Contract): Map<number, RungNote[]> {
    const notes = new Map<number, RungNote[]>();
    for (const exit of exits) {
        const text = `${exit.lots} ${exit.role} ${writeExact(exit.money, contract.minor_unit)}`;
        notes.set(exit.level, [...(notes.get(exit.level) ?? []), { side: opposite(entry), kind: 'exit', text }]);
    }
    return notes;
}

/** What is being dragged, where it would be let go: the money at that rung goes with it. */
export function dragNote(drag: Drag, position: Position | null, contract: Contract): RungNote | null {
    const money = position === null ? '' : ` · ${writeMoney(pnlAt(position.pnl, drag.to), position.pnl.scale, contract.minor_unit)}`;
    if ('role' in drag) return position && { side: position.quantity > 0 ? 'sell' : 'buy', kind: 'ghost', text: `${drag.role}${money}` };
    const order = useDesk.getState().orders.get(drag.chip.id);
    return order ? { side: order.side, kind: 'ghost', text: `${drag.chip.lots} → ${writePrice(contract, drag.to)}${money}` } : null;
}
