import type { Value } from '@/ui/value';

export const WORDS = {
    laddersEnough: (most: Value) => `There are ${most} ladders already.`,
    oneClickIsOff: (why: Value) => `One-click is off: ${why}.`,
    secondPressDropped: (within: Value, order: Value) => `A second press within ${within} ms was dropped: ${order}.`,
    fillsTaken: (taken: Value, file: Value, known: number) =>
        `${taken} fills taken from ${file}${known > 0 ? `, ${known} were there already` : ''}. They are marked, and count for nothing else.`,
    sizeUnknown: 'How many lots fit is not known yet.',
};
