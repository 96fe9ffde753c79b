import type { Contract, Order, Position, Preview } from '@/api/client';
import { pnlAt, writeExact, writeMoney, writePrice } from '@/model/prices';
import { deskNow } from '@/stream/store';
import { type Drag, wouldClose } from './useDrag';
import { WORDS } from './words';

/** Short words at a rung that are no order: what a press would send, where it would go, or its exits to be. */
export interface RungNote {
    side: Order['side'];
    text: string;
    kind: 'ghost' | 'refused' | 'exit';
}

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

/** What is being dragged, at a rung where it, or the other of its pair, would be let go: the money there goes with it. */
export function dragNote(drag: Drag, tick: number, position: Position | null, contract: Contract): RungNote | null {
    const mirrored = 'role' in drag && drag.mirror === tick;
    if (tick !== drag.to && !mirrored) return null;
    const money = position === null ? '' : ` · ${writeMoney(pnlAt(position.pnl, tick), position.pnl.scale, contract.minor_unit)}`;
    if ('role' in drag) {
        const role = mirrored ? (drag.role === 'stop' ? 'target' : 'stop') : drag.role;
        return position && { side: position.quantity > 0 ? 'sell' : 'buy', kind: 'ghost', text: `${role}${money}` };
    }
    const order = deskNow().orders.get(drag.chip.id);
    if (!order) return null;
    const isAll = position !== null && Math.abs(position.quantity) === drag.lots;
    const exit = position?.turns.target ?? drag.to;
    if (wouldClose(order, drag.to)) {
        // The position's money is that of all its lots.
        const then = isAll ? ` · ${writeMoney(pnlAt(position.pnl, exit), position.pnl.scale, contract.minor_unit)}` : '';
        return { side: order.side, kind: 'refused', text: WORDS.closesNow(drag.lots, writePrice(contract, exit), then) };
    }
    // An entry closes nothing: what the position would make there is not its money.
    const makes = order.role === 'entry' || position === null ? '' : isAll ? money : WORDS.forAll(money, Math.abs(position.quantity));
    return { side: order.side, kind: 'ghost', text: `${drag.lots} → ${writePrice(contract, drag.to)}${makes}` };
}
