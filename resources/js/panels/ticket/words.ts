import type { Value } from '@/ui/value';

export const WORDS = {
    howTimesAreTyped: 'In your own time: 15:00, 4 dec 15:00, +90m, +1h30m, or close',
    noSuchTime: '15:00, 4 dec 15:00, +90m or close',
    pickTime: (label: Value) => `${label}: pick a date and time`,
    orClickPrice: 'Or click a price on the ladder',
    onlyAfterFill: 'Only after a fill of',
    noSuchContract: 'No contract has that code, name or alias.',
};
