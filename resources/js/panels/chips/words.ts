import type { Value } from '@/ui/value';

export const WORDS = {
    ahead: (ahead: Value) => ` · ${ahead} lots ahead of it`,
    dragsAll: ' · a drag moves every stop at this rung, with Alt this one alone',
    filled: (lots: Value, of: Value) => `, ${lots} of ${of} filled`,
    onItsWay: { place: 'sending', move: 'moving', cancel: 'cancelling' },
    notDone: 'not done',
    givingUp: 'giving it up',
    giveUp: 'Give it up: it is cancelled if it has arrived',
    cancelOrder: (id: Value) => `Cancel order ${id}`,
    countedFrom: (countsFrom: Value) => `, counted from ${countsFrom}`,
    cancelledWhenAnswered: ', cancelled as soon as the venue answers',
    closesNow: (lots: Value, price: Value, then: Value) => `closes ${lots} now ≈ ${price}${then}`,
    forAll: (money: Value, ticks: Value) => `${money} for all ${ticks}`,
    putBack: (price: Value, lots: Value) => `Not moved: a stop at ${price} would trigger now and close ${lots}. Hold Shift to force.`,
    usualKind: 'limit, or stop beyond the market',
    nextTouch: 'What the next touch sends',
};
