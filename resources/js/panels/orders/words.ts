import type { Value } from '@/ui/value';

export const WORDS = {
    ahead: (ahead: Value) => ` · ${ahead} lots ahead of it`,
    filled: (lots: Value, of: Value) => `, ${lots} of ${of} filled`,
    cancelOrder: (id: Value) => `Cancel order ${id}`,
    countedFrom: (countsFrom: Value) => `, counted from ${countsFrom}`,
    cancelledWhenAnswered: ', cancelled as soon as the venue answers',
    closesNow: (lots: Value, price: Value, then: Value) => `closes ${lots} now ≈ ${price}${then}`,
    forAll: (money: Value, ticks: Value) => `${money} for all ${ticks}`,
    putBack: (price: Value, lots: Value) => `Put back: a stop at ${price} would close ${lots} at once. With Shift down it is let go there.`,
    usualKind: 'limit, or stop beyond the market',
    nextTouch: 'What the next touch sends',
};
