import type { Day } from '@/stream/store';

/** What the day did at a rung, in a word: tick → words. */
export function dayMarks(day: Day | undefined): Map<number, string> {
    const marks = new Map<number, string>();
    const mark = (tick: number | null | undefined, word: string) => {
        if (tick != null) marks.set(tick, marks.has(tick) ? `${marks.get(tick)} ${word}` : word);
    };
    mark(day?.limits?.[1], 'limit');
    mark(day?.limits?.[0], 'limit');
    mark(day?.high, 'high');
    mark(day?.low, 'low');
    mark(day?.open, 'open');
    mark(day?.settlement, 'settled');
    mark(day?.average?.level, 'VWAP');
    return marks;
}
