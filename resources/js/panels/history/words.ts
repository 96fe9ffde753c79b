import type { Value } from '@/ui/value';

export const WORDS = {
    backToNow: (ago: Value) => `${ago} back · to now`,
    tools: (code: Value) => `Depth history of ${code}, how it is shown`,
    oneLadderMore: 'One ladder more, beside this one',
    ink: 'Ink in a row is the lots that rested there.',
    strokes: 'sold; longer is more, or higher where much time is shown. Drag to look back, wheel for more or less time.',
    scaleFollows: 'The depth scale follows the market (99 of 100 prices hold less)',
    ofExits: 'of stops and targets (rings)',
    ticksOfBest: 'ticks of the best price',
    importTitle: 'CSV with time, contract, side, quantity, price and perhaps id',
    importColumns: 'CSV: time, contract, side, quantity, price',
    takeAway: (count: Value) => `remove these ${count}`,
    picture: (code: Value, span: Value) => `Depth history of ${code}, ${span}, with its trades and the path of your stops`,
    atRow: (lots: Value, bought: number, sold: number) => `${lots} resting${bought + sold > 0 ? ` · ${bought} bought, ${sold} sold` : ''}`,
};
