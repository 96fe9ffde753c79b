import type { Value } from '@/ui/value';

export const WORDS = {
    dayMeans: 'The trading day: how it went, its trades, what is left over',
    barredMeans: (name: Value, limit: Value, time: Value) =>
        `${name}: ${limit} was reached. No new entry until ${time} UTC; reduce-only orders accepted. Press to see what led to it`,
    stoppedMeans: (because: Value) => `${because}; reduce-only orders accepted`,
    roomTo: (limit: Value) => `What may still be lost before ${limit} acts`,
    noEntriesUntil: (time: Value) => `no entries until ${time}`,
    barredUntilUtc: (time: Value) => `barred until ${time} UTC`,
    windowTitle: (bare: number) => (bare > 0 ? `! ${bare} unprotected · Lotrik` : 'Desk · Lotrik'),
    flattenAllMeans: (flattenKey: Value) => `Every contract of the account; ${flattenKey} held does the same`,
    cancelAllMeans: (cancelKey: Value) => `Entries and hand-made orders of every contract, the stops stay; ${cancelKey} held does the same`,
    helpMeans: 'All keys, and what the pointer does',
    leftBehind: (positions: number, orders: number, drafts: number): string =>
        [
            ...(positions > 0 ? [`${positions} open ${positions === 1 ? 'position' : 'positions'}`] : []),
            ...(orders > 0 ? [`${orders} working ${orders === 1 ? 'order' : 'orders'}`] : []),
            ...(drafts > 0 ? [`${drafts} ${drafts === 1 ? 'draft' : 'drafts'} to be dropped`] : []),
        ].join(', '),
    signOutWith: (left: string) => `You have ${left}. Exits keep working while you are signed out.`,
    showAccount: (left: string, account: Value) =>
        `${left === '' ? '' : `This account has ${left}; its exits keep working. `}This desk will show and trade ${account}.`,
};
