import type { Value } from '@/ui/value';

export const WORDS = {
    title: (account: Value) => `The trading day of ${account}`,
    theDayBefore: 'The day before',
    span: (began: string, ends: string) => `from ${began} to ${ends} UTC`,
    funds: (balance: string, margin: string, left: string) => `balance ${balance} · margin used ${margin} · buying power ${left}`,
    trades: (count: number, won: number, lost: number) =>
        count === 0 ? 'no trade ended' : `${count} ${count === 1 ? 'trade' : 'trades'}: ${won} won, ${lost} lost`,
    bestTrade: (money: string) => `best ${money}`,
    worstTrade: (money: string) => `worst ${money}`,
    drawn: 'What the day stood at, with what was open and without',
    withOpen: 'with what is open',
    closed: 'closed, less fees',
    stoodBest: (money: string, time: string) => `best ${money} at ${time}`,
    stoodWorst: (money: string, time: string) => `worst ${money} at ${time}`,
    lossLimit: (money: string) => `loss limit −${money}`,
    byContract: 'By contract',
    limitsMet: 'Limits met',
    ledToBar: 'What triggered the limit',
    leftOver: 'Left over, and why',
    nothingLeft: 'Nothing is open and nothing works.',
    noneMet: 'None.',
    nothingDrawn: 'Nothing was traded.',
};
