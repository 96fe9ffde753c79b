export const WORDS = {
    orClickPrice: 'Or click a price on the ladder',
    onlyAfterFill: 'Only after a fill of',
    noSuchContract: 'No contract has that code, name or alias.',
};
