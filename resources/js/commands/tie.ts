import { create } from 'zustand';
import { groundOf } from '@/model/basis';
import { say } from '@/stream/store';
import { tie, untie } from './actions';
import { chosenOrder } from './chosen';
import { WORDS } from './words';

/** The order that waits to be tied to the one pressed next. */
export const useTie = create<{ from: number | null }>(() => ({ from: null }));

/** With an order chosen: unties it, or waits for the other one. */
export function armTie(): void {
    const order = chosenOrder();
    if (!order) return say(WORDS.howToTie);
    if (order.tied) return untie(order);
    useTie.setState({ from: order.id });
}

/** @returns whether the press was the second half of a tie */
export function tieTo(id: number): boolean {
    const { from } = useTie.getState();
    if (from === null || from === id) return false;
    useTie.setState({ from: null });
    tie(groundOf(), from, id);
    return true;
}

export const dropTie = (): void => useTie.setState({ from: null });
