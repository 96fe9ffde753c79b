import type { Value } from '@/ui/value';

export const WORDS = {
    resetMeans: (name: Value, balance: Value, currency: Value) =>
        `${name} is closed, and another of this name begins with ${balance} ${currency}. What was traded stays to be read.`,
    closeMeans: (name: Value) => `Nothing can be entered on ${name} any more. What was traded stays to be read.`,
    ratesOf: (name: Value) => `Rates of ${name}`,
    countedAnew: 'what is open is counted anew with them',
    removeStep: (number: Value) => `Remove step ${number}`,
    askBeforeLots: 'Ask before more lots than',
    secondPress: 'Drop a second press within, ms (0: off)',
    oneClickIdle: 'One-click off after, minutes without use',
    sendAtOnce: 'Quick row, action keys and armed rows send at once, one-click or not',
    actOnPress: 'A press on the ladder acts as it goes down, not where it is let go',
    forContract: (code: Value) => `For ${code} alone`,
    ticketKind: 'Kind on the ticket at first',
    howToChangeKeys: 'Press on a key to change it. A key that the browser or something else here needs is refused, and nothing changes.',
    barred: 'an account that is barred',
    atLevel: 'what happens at a marked level',
    rungHeight: 'Height of a rung, with its figures',
    drawnAnew: '(the desk is drawn anew)',
    lastColumn: "The ladder's last column counts in",
    besideOpen: 'beside the open P/L:',
    inR: 'R, times the risk at entry',
    asHighAsThis: 'in a ladder as high as this one',
    pixelsEach: (rungs: Value, height: Value) => `${rungs}, ${height} pixels each`,
};
