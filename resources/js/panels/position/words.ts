import type { Value } from '@/ui/value';

export const WORDS = {
    everyStopNearer: 'Every stop of the position nearer to the market',
    tighten: (ticks: number) => `Tighten ${ticks} ${ticks === 1 ? 'tick' : 'ticks'}`,
    tightenLess: 'Tighten by one tick less',
    tightenMore: 'Tighten by one tick more',
    typeExit: (exit: Value, what: Value) => `Type a ${exit} for ${what}`,
    newExit: (exit: Value, what: Value) => `New ${exit} of ${what}`,
    howExitsCount: 'Ticks and money count from the entry: a loss for a stop, a profit for a target; + or − in front says which',
    closeThese: (lots: Value) => `Close ${lots}`,
    whyAtAverage: "Lots that have closed were taken at the position's average: this makes the entries add up to it",
    atAverage: 'closed lots, taken at the average',
    byOrder: 'by order',
    takeTargetOff: (what: Value) => `Remove the target of ${what}: it runs with its stop alone`,
    closeOf: (closes: Value, what: Value) => `Close the ${closes} of ${what} at the market`,
    giveBack: (what: Value, then: Value) => `Return the stop of ${what} to its plan; ${then}`,
    riskFromHere: 'Risk from here, with fees',
    riskFromEntry: 'Risk from entry, with fees',
    noStopByPlan: (unstoppedByPlan: Value) => `${unstoppedByPlan} without a stop, as the plan says`,
    beyondLimit: ': the market is beyond the stop-limit',
    closeAtTheMarket: (lots: Value) => `Close ${lots} at the market`,
    cover: (lots: Value, name: Value) => `Protect ${lots} with ${name}`,
    flattening: (lots: Value) => `Flattening · ${lots} left`,
    portions: (numbers: readonly number[]) =>
        numbers.length === 1 ? `portion ${numbers[0]}` : `portions ${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1)}`,
};
