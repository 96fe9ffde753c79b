import type { Value } from '@/ui/value';

export const WORDS = {
    click: 'a draft at that rung; sent at once with one-click on, or where it only closes',
    shiftClick: 'the other kind: a limit through the market, or MIT (market if touched)',
    altShiftClick: 'a stop-limit where a stop would stand; if it switches your keyboard layout, use the key below',
    draftClick: 'a draft, even with one-click on',
    drag: 'an order to another rung; from the average price, a stop or a target, with Shift both as a pair',
    wheel: 'scrolls the rungs; on a chip that is chosen or held down, its lots',
    actionKey: (name: Value) => `action key: ${name}`,
    toPlace: 'point left of the price to buy, right of it to sell. A click makes a draft, Enter sends it.',
    yourExitPlan: 'puts the stop and targets in as you fill, then moves the stop by the curve on the right.',
    toGetOut: 'hold X, or press Flatten. All keys: press ?',
};
