import type { Value } from '@/ui/value';

export const WORDS = {
    overLimit: (limit: Value) => `over the order limit of ${limit}`,
    risk: (money: Value, fees: Value) => ` · risk ${money} + ${fees} fees`,
    nearer: (label: Value) => `${label} one tick nearer`,
    farther: (label: Value) => `${label} one tick farther`,
    runsThisOrder: (portion: Value) => `Portion ${portion} runs without a target, this order only`,
    allPlans: (count: Value) => `Show all ${count} exit plans beside the card`,
    backToPlan: 'Back to the plan as it is',
    sizedBy: 'Size by',
    mayLose: 'What the next order may lose at its stops, with fees',
    left: (money: Value, currency: Value) => `${money} ${currency} left`,
    lookBack: 'How far back entries are tried',
    afterFees: 'ticks, net',
    tried: (buys: Value, sells: Value, every: Value) => `${buys} entries to buy, ${sells} to sell, one every ${every} s`,
    cases: (side: string, open: number) => `${side}${open > 0 ? `, ${open} still open` : ''}`,
    /** Under the average: what it says of entries whose exits are not all done. */
    running: (count: number) =>
        `Average after fees. ${count} of these entries ${count === 1 ? 'has' : 'have'} lots still open, counted at the last print.`,
    noise: (minutes: Value, every: Value, needed: Value) =>
        `History, not advice: market entries under this plan, one every ${every} s of the last ${minutes} min, each followed on what traded after it. What filled first: the stop, the stop once it stood at break-even or better, or a target. Ticks of a lot after fees, on average of those that were over. Open: none had. Grey: fewer than ${needed} had.`,
    curve: (stop: Value, best: Value | null) => `Stop ${stop} at first${best === null ? '' : `; best ${best} now`}`,
};
