import type { Value } from '@/ui/value';

export const WORDS = {
    barsOf: (code: Value) => `Bars of ${code}`,
    averageTrueRangeMeans: 'Wilder, over the last 14 closed bars; it needs 15',
    barSpoken: (time: Value, open: Value, high: Value, low: Value, close: Value, lots: Value) =>
        `${time} · open ${open} high ${high} low ${low} close ${close} · ${lots} lots`,
    whichSide: 'Left of the price buys, right of it sells',
    barsSpoken: (count: Value, code: Value, size: Value) => `${count} bars of ${code}, ${size} each`,
    dragToSetExit: 'Drag from here to set a stop or a target',
    followsLadder: (id: Value, code: Value) => `follows ladder ${id}: ${code}`,
    pinnedTo: (code: Value) => `pinned to ${code}`,
};
