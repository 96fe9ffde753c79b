import type { Value } from '@/ui/value';

export const WORDS = {
    hours: (words: Value, here: string | null) => (here === null ? String(words) : `${words} · ${here} here`),
    waysOut: 'Close or flatten',
    closeAllOf: (contract: Value) => `Close all lots of ${contract} at the market; what works to open more stays`,
    flattenAllOf: (contract: Value) => `Flatten ${contract}`,
    sinceFirstTrade: "since the day's first trade",
    noSuchContract: 'There is no such contract.',
    changeCell: (label: Value) => `Change the ${label}`,
    newOfOrder: (label: Value, id: Value) => `New ${label} of order ${id}`,
    journalEmpty: 'Everything that happens is listed here.',
    levelName: (low: Value) => `Name of the level at ${low}`,
    levelTone: (low: Value) => `Tone of the level at ${low}`,
    stopBehind: (off: Value) => `A stop ${off} ticks behind it; S in the chosen row`,
    targetBefore: (off: Value) => `A target ${off} ticks before it; T in the chosen row`,
    noLevels: (markKey: Value) =>
        `No level is marked. Press the right button on a row of the ladder or of its history (drag for a band), or ${markKey} at a rung.`,
    rowsJustMoved: 'Not done: the rows just moved.',
    tapeOf: (code: Value) => `Tape of ${code}`,
    bigPrintsOf: (code: Value) => `Big prints of ${code}`,
    noBigPrints: (big: Value) => `Nothing of ${big} lots or more yet.`,
    heldUntil: (heldUntil: Value) => `held until ${heldUntil}`,
    thenCancelled: (state: Value) => `${state}, then cancelled`,
    cancelOrder: (id: Value) => `Cancel order ${id}`,
    nothingWorking: 'No working orders. Press a rung of the ladder, or Buy market or Sell market, to make one.',
};
