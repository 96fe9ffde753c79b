import type { Value } from '@/ui/value';

export const WORDS = {
    laddersEnough: (most: Value) => `There are ${most} ladders already.`,
    oneClickIsOff: (why: Value) => `One-click is off: ${why}.`,
    secondPressDropped: (within: Value, order: Value) => `A second press within ${within} ms was dropped: ${order}.`,
    fillsTaken: (taken: Value, file: Value, known: number) =>
        `${taken} fills taken from ${file}${known > 0 ? `, ${known} were there already` : ''}. They are marked, and count for nothing else.`,
    overOrderLimit: (lots: Value, limit: Value) => `${lots} lots are over the order limit of ${limit}: nothing is sent.`,
    noLotsTyped: (limit: Value) => `Type whole lots, 1 to ${limit}: until then nothing is sent.`,
    dropped: 'Dropped: nothing was sent.',
    waitedTooLong: 'Dropped after 30 s: nothing was sent.',
    sizeUnknown: 'How many lots fit is not known yet.',
};
