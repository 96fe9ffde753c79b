import { create } from 'zustand';
import type { Contract, Order } from '@/api/client';
import type { Basis } from '@/model/basis';
import { chooseContract, useChoices } from '@/model/choices';
import { kindOfClick, levelOf, PLAIN } from '@/model/clickKind';
import { writePrice } from '@/model/prices';
import { isSecondPress, wasPressed } from '@/model/secondPress';
import { deskNow, say } from '@/stream/store';
import { openByButton } from './openByButton';
import { WORDS } from './words';

/** Rows of the list of contracts whose bid and ask take orders; none when the desk is opened. */
export const useArmed = create<{ codes: string[] }>(() => ({ codes: [] }));

export const arm = (code: string, armed: boolean): void =>
    useArmed.setState(({ codes }) => ({ codes: armed ? [...codes, code] : codes.filter((other) => other !== code) }));

/**
 * A press on the bid or the ask of an armed row: the contract comes onto the ladder in front, and the order is what a
 * plain click on that rung there would be, a draft where one-click is off. Never anything but a limit: where the market
 * has left the price that was pressed, nothing is sent.
 *
 * @param basis lots and plan as the row shows them
 * @param at    the event's time stamp, ms
 */
export function pressQuote(contract: Contract, basis: Basis, side: Order['side'], tick: number, at: number): void {
    const { code } = contract;
    const book = deskNow().books[code];
    if (!useArmed.getState().codes.includes(code) || !book) return;
    const kind = kindOfClick(side, tick, book, PLAIN);
    if (kind !== 'limit') return say(WORDS.noLongerAt(code, writePrice(contract, tick)));
    if (useChoices.getState().code !== code) chooseContract(code);
    const where = `${code} ${side}`;
    if (isSecondPress(where, at, WORDS.limitAt(basis.lots, writePrice(contract, tick)))) return;
    openByButton({ side, ...levelOf(contract, kind, tick, side) }, tick, basis);
    wasPressed(where, at);
}
