import { type PointerEvent, useCallback, useEffect, useRef, useState } from 'react';
import type { Contract, Order, Position } from '@/api/client';
import { move, setExit } from '@/commands/actions';
import { chooseOrder } from '@/commands/chosen';
import { chooseDraft, moveDraft, useDrafts } from '@/commands/drafts';
import { dropTie, tieTo } from '@/commands/tie';
import { useDragged } from '@/commands/whatIf';
import { type Ground, groundOf } from '@/model/basis';
import { price, writePrice } from '@/model/prices';
import { deskNow, say } from '@/stream/store';
import { onPointerGone } from '@/ui/pointerGone';
import type { ChipData } from './Chip';
import { WORDS } from './words';

/**
 * What is being dragged, and the rung that it is over: an order, or a stop or target pulled out of the position; with
 * Shift held both of them, the other as far on the other side of the average.
 */
export type Drag = { to: number } & (
    | { chip: ChipData; orders: readonly Order[]; lots: number }
    | { role: 'stop' | 'target'; mirror: number | null }
);

/** What is held down, at which height in the window, and whether the pointer has gone far enough for a drag. */
type Grabbed = { pointer: number; y: number; isDrag: boolean; at: Ground } & (
    | { chip: ChipData; orders: readonly Order[]; above: number }
    | { position: Position }
);

/** A press whose pointer moves by less, in pixels, is a press. */
const DRAG_PX = 4;

const levelOf = ({ role, id }: ChipData): number | null =>
    (role === 'draft' ? useDrafts.getState().list.find((draft) => draft.id === id)?.tick : deskNow().orders.get(id)?.level) ?? null;

/** A stop is dragged with all that stand at its rung: half of a position's protection left behind is a surprise. With Alt it goes alone. */
function ordersOf({ role, id }: ChipData, alone: boolean): readonly Order[] {
    const { orders } = deskNow();
    const order = role === 'draft' ? undefined : orders.get(id);
    if (!order) return [];
    if (alone || order.role !== 'stop') return [order];
    const isBeside = (other: Order) =>
        other.role === 'stop' && other.contract === order.contract && other.side === order.side && other.level === order.level;
    return [...orders.values()].filter(isBeside);
}

/** How far a rung lies beyond another one, in the direction in which the position gains. */
const beyond = ({ pnl }: Position, tick: number, turn: number): number => Math.sign(pnl.slope) * (tick - turn);

/** What the position's lots would get at a rung, by the turning point that PHP gives. */
export function exitAt(position: Position, tick: number): 'stop' | 'target' {
    return beyond(position, tick, position.turns.target ?? tick) > 0 ? 'target' : 'stop';
}

/** Whether a stop that is let go there would close at once, by the turning point that PHP gives. */
export function wouldClose(order: Order, tick: number): boolean {
    const position = deskNow().positions[order.contract];
    return order.role === 'stop' && position != null && position.turns.stop !== null && beyond(position, tick, position.turns.stop) >= 0;
}

/** Dragging to another rung. A draft goes along; an order is changed where it is let go, and not before. */
export function useDrag(contract: Contract, tickAt: (event: PointerEvent<HTMLElement>) => number | null) {
    const [drag, drawDrag] = useState<Drag | null>(null);
    const { code } = contract;
    // Where it is let go counts, whether that has been drawn yet or not.
    const latest = useRef<Drag | null>(null);
    const grabbed = useRef<Grabbed | null>(null);
    const setDrag = useCallback(
        (now: Drag | null) => {
            latest.current = now;
            drawDrag(now);
            useDragged.setState({
                orders: now && 'chip' in now ? now.orders.map(({ id }) => id) : [],
                tick: now && 'chip' in now ? now.to : null,
                stop: now && 'role' in now && now.role === 'stop' ? { contract: code, tick: now.to } : null,
            });
        },
        [code],
    );
    const leave = useCallback(() => {
        grabbed.current = null;
        setDrag(null);
    }, [setDrag]);
    useEffect(() => {
        const drop = (event: KeyboardEvent) => {
            if (event.key !== 'Escape') return;
            leave();
            dropTie();
        };
        window.addEventListener('keydown', drop);
        return () => window.removeEventListener('keydown', drop);
    }, [leave]);

    /** Let go anywhere else, nothing moves. */
    const hold = (what: Grabbed, event: PointerEvent<HTMLElement>) => {
        grabbed.current = what;
        onPointerGone(event, leave, leave);
    };

    return {
        drag,
        /** the chip that is held down */
        held: () => (grabbed.current && 'chip' in grabbed.current ? grabbed.current.chip : null),
        grab: (chip: ChipData, event: PointerEvent<HTMLElement>) => {
            if (chip.role !== 'draft' && tieTo(chip.id)) return;
            // A chip is higher than a tick may be: it keeps its distance to the pointer.
            const above = (levelOf(chip) ?? 0) - (tickAt(event) ?? levelOf(chip) ?? 0);
            const orders = ordersOf(chip, event.altKey);
            hold({ pointer: event.pointerId, chip, orders, above, y: event.clientY, isDrag: false, at: groundOf(contract.code) }, event);
            if (chip.role === 'draft') {
                chooseOrder(null);
                chooseDraft(chip.id);
            } else {
                chooseOrder(chip.id);
            }
        },
        grabPosition: (position: Position, event: PointerEvent<HTMLElement>) => {
            hold({ pointer: event.pointerId, position, y: event.clientY, isDrag: false, at: groundOf(contract.code) }, event);
        },
        /** true while something is held down, so that the ghost keeps quiet */
        moveTo: (event: PointerEvent<HTMLElement>): boolean => {
            const what = grabbed.current;
            const at = tickAt(event);
            if (what === null || at === null || what.pointer !== event.pointerId) return what !== null;
            what.isDrag ||= Math.abs(event.clientY - what.y) >= DRAG_PX;
            if (!what.isDrag) return true;
            if ('position' in what) {
                const average = what.position.average_level;
                const mirror = event.shiftKey && average !== null ? 2 * average - at : null;
                setDrag(at === average ? null : { role: exitAt(what.position, at), to: at, mirror });
            } else if (what.chip.role === 'draft') {
                moveDraft(what.chip.id, at + what.above, contract);
            } else {
                const { chip, orders } = what;
                setDrag({ chip, orders, lots: orders.reduce((sum, order) => sum + order.leaves, 0), to: at + what.above });
            }
            return true;
        },
        letGo: (event: PointerEvent<HTMLElement>) => {
            if (grabbed.current?.pointer !== event.pointerId) return;
            const [now, at] = [latest.current, grabbed.current.at];
            leave();
            if (now === null) return;
            if ('role' in now)
                return setExit(at, now.role, price(contract, now.to), now.mirror === null ? undefined : price(contract, now.mirror));
            const orders = now.orders.flatMap(({ id }) => deskNow().orders.get(id) ?? []);
            const [first] = orders;
            if (!first || now.to === first.level) return;
            if (!event.shiftKey && wouldClose(first, now.to)) return say(WORDS.putBack(writePrice(contract, now.to), now.lots));
            // With Shift it goes through the market on purpose.
            for (const order of orders) move(order, price(contract, now.to), event.shiftKey || undefined);
        },
    };
}
