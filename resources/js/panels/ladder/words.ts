import type { Value } from '@/ui/value';

export const WORDS = {
    showIt: (lots: Value, what: Value, ticks: Value) => `${lots}, ${what}${ticks}: show it`,
    pointAtRung: (oneClick: boolean) =>
        `Point at a rung: left of the price buys, right of it sells. A click ${oneClick ? 'sends at once' : 'makes a draft'}.`,
    sendsNothing: 'These prices are old: a click sends nothing until the feed is live.',
    change: (lots: number) => `${Math.abs(lots)} lots ${lots > 0 ? 'more' : 'fewer'} than a second ago`,
    pointToSetExit: 'Point at a rung, with a position open: this key sets its stop or target there.',
    pointToMark: 'Point at a rung: this key marks its price as a level.',
    pressTheOneMeant: 'Exact prices: press the one that is meant.',
    overLossRoom: (says: Value) => `${says} · over the loss room`,
    isDraft: ' · draft: Enter sends, Esc drops',
    altShiftOr: (key: Value) => `Alt Shift or ${key}`,
    isDraftOf: ' · draft',
    keysAreIn: (name: Value) => `keys are in ${name} · Esc`,
    enterIsFor: (name: Value) => `Enter is for ${name}`,
    clickSends: ' · a click sends',
    clickMakesDraft: ' · a click makes a draft',
    barredUntil: (limit: Value, time: Value) =>
        `Barred until ${time} UTC: ${limit} is reached. Orders that only reduce are taken; new entries wait for the next day.`,
    stoppedUntil: (because: Value, time: Value) => `No new entries until ${time} UTC: ${because}. Orders that only reduce are taken.`,
    imbalance: (within: Value) => `Imbalance: bids less asks within ${within} ticks, in percent of both`,
    lastColumn: 'P/L in',
    rungsOf: (code: Value) => `Rungs of ${code}`,
    waitingForPicture: (code: Value) => `Waiting for the first picture of ${code}…`,
    sumWithin: (of: Value, within: Value) => `Lots of all ${of} within ${within} ticks of the best one`,
    panelsCanFollow: (id: Value) => `Ladder ${id}: panels can follow it`,
    hiddenLadders: (count: number) =>
        `${count} ${count === 1 ? 'ladder has' : 'ladders have'} no room here. Press to bring the next one to the front.`,
    contractOfLadder: (id: Value) => `Contract of ladder ${id}`,
    closeLadder: (id: Value) => `Close ladder ${id}`,
    dragToSetExit: 'Drag from here to set a stop or a target',
    lastTenSeconds: (bought: Value, sold: Value) => `In the last ten seconds ${bought} bought, ${sold} sold here`,
    pressOtherToTie: (tying: Value) => `Order ${tying}: press the order to tie it to · Esc cancels`,
    sendBoth: 'Send both, one cancels the other',
    addAsSecond: (lots: Value) => `Add ${lots} as a second order, this one keeps its place`,
};
