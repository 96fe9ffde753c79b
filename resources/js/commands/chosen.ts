import { create } from 'zustand';
import type { Contract, Order } from '@/api/client';
import { bodyOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { levelOf } from '@/model/clickKind';
import { isShown } from '@/model/ladders';
import { price } from '@/model/prices';
import { deskNow, say } from '@/stream/store';
import { change, type OrderChange, place } from './actions';
import { WORDS } from './words';

interface Chosen {
    /** the working order that was pressed on, or chosen in the list */
    id: number | null;
    /** lots and level that it should have; null is as it is */
    lots: number | null;
    tick: number | null;
    /** the rung whose chips are spread out, as `side tick` */
    fan: string;
}

/** The order that keys and wheel change. Nothing is sent before {@link sendChange}. */
export const useChosen = create<Chosen>(() => ({ id: null, lots: null, tick: null, fan: '' }));

export function chooseOrder(id: number | null): void {
    const order = deskNow().orders.get(id ?? 0);
    if (useChosen.getState().id !== id) useChosen.setState({ id, lots: null, tick: null });
    useChosen.setState({ fan: order ? `${order.side} ${order.level}` : '' });
}

/** The order that keys act on: one that no ladder shows is not changed behind the trader's back. */
export function chosenOrder(): Order | undefined {
    const order = deskNow().orders.get(useChosen.getState().id ?? 0);
    return order && isShown(order.contract) ? order : undefined;
}

/** Whether the chosen order is to be changed and has not been. */
export const isChanging = (chosen: Chosen): boolean => chosen.id !== null && (chosen.lots !== null || chosen.tick !== null);

export function leaveChange(): void {
    useChosen.setState(isChanging(useChosen.getState()) ? { lots: null, tick: null } : { id: null, fan: '' });
}

/** An exit's lots are its portion's: they are not changed here. */
export function resizeChosen(by: number): void {
    const order = chosenOrder();
    if (!order) return;
    if (order.role === 'stop' || order.role === 'target') {
        say(WORDS.lotsFollowPortion(order.role));
        return;
    }
    const lots = Math.max(1, (useChosen.getState().lots ?? order.leaves) + by);
    useChosen.setState({ lots: lots === order.leaves ? null : lots });
}

export function nudgeChosen(by: number): void {
    const order = chosenOrder();
    if (!order || order.level === null) return;
    const tick = (useChosen.getState().tick ?? order.level) + by;
    useChosen.setState({ tick: tick === order.level ? null : tick });
}

/** Raising lots by a second order leaves the first one's place in the queue alone. */
export const raisesLots = (chosen: Chosen, order: Order): boolean => chosen.tick === null && (chosen.lots ?? order.leaves) > order.leaves;

/** @param asSecond the lots that are more go out as an order of their own */
export function sendChange(contract: Contract, asSecond: boolean): void {
    const chosen = useChosen.getState();
    const order = chosenOrder();
    if (!order || !isChanging(chosen)) return;
    useChosen.setState({ lots: null, tick: null });
    if (asSecond && order.level !== null && chosen.lots !== null) {
        const plan = planOf(order);
        if (plan === undefined) say(WORDS.planGone(order.plan ?? ''));
        else {
            const placement = { side: order.side, ...levelOf(contract, order.kind, order.level, order.side) };
            const { account, tag } = order;
            void place(bodyOf(placement, { account, contract: order.contract, lots: chosen.lots - order.leaves, plan, tag: tag ?? '' }));
        }
        return;
    }
    void change(order, changeOf(contract, order, chosen));
}

/** What is asked for, as the API takes it. */
export function changeOf(contract: Contract, order: Order, { lots, tick }: Chosen): OrderChange {
    const level = tick === null ? {} : { [order.kind === 'limit' ? 'price' : 'trigger']: price(contract, tick) };
    return { ...level, ...(lots !== null && { quantity: order.filled + lots }) };
}

/** The plan that an order was sent with; undefined where it cannot be found any more. */
function planOf(order: Order): number | null | undefined {
    return order.plan === null ? null : useChoices.getState().plans.find((plan) => plan.document.name === order.plan)?.id;
}
