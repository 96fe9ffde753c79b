import type { Value } from '@/ui/value';

export const WORDS = {
    overLimit: (limit: Value) => `over the order limit of ${limit}`,
    risk: (money: Value, fees: Value) => ` · risk ${money} + ${fees} fees`,
    nearer: (label: Value) => `${label} one tick nearer`,
    farther: (label: Value) => `${label} one tick farther`,
    runsThisOrder: (portion: Value) => `Portion ${portion} runs without a target, this order only`,
    backToPlan: 'Back to the plan as it is',
    sizedBy: 'What the size is said in',
    mayLose: 'What the next order may lose at its stops, with fees',
    left: (money: Value, currency: Value) => `${money} ${currency} left`,
    curve: (stop: Value, best: Value | null) => `Stop ${stop} at first${best === null ? '' : `; best ${best} now`}`,
};
