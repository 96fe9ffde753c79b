import type { Value } from '@/ui/value';

export const WORDS = {
    ifAllFill: 'If all stops fill at their triggers',
    inDepth: 'at current depth',
    afterGap: 'after a gap of',
    afterJump: 'after',
    howFar: 'How far the market jumps through each stop',
    ofTheHour: "the hour's largest jump",
    ofTheDay: "the day's largest jump",
    gapOf: (ticks: number) => `${ticks} ${ticks === 1 ? 'tick' : 'ticks'} through the stop`,
    whatIf: 'If you let go or send',
    ifSent: 'not sent',
    byHand: (order: Value) => `order ${order}, by hand`,
    part: (entry: Value, portion: Value) => `${entry}, portion ${portion}`,
    altogether: 'Total',
    lockedIn: 'Locked in',
    shares: (balance: Value, room: Value, r: string | null) =>
        `${balance} % of the balance · ${room} % of the loss room${r === null ? '' : ` · ${r} R`}`,
    over: 'This would hit your daily loss limit.',
    unprotected: (lots: number, contract: Value) => `${contract}: ${lots} ${lots === 1 ? 'lot' : 'lots'} unprotected, no limit`,
    notCounted: (lots: number) => `${lots} unprotected ${lots === 1 ? 'lot is' : 'lots are'} in none of these sums`,
    thin: (lots: number) => `${lots} ${lots === 1 ? 'lot finds' : 'lots find'} nothing there`,
    nothing: 'Nothing is open.',
};
