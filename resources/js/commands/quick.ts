import type { Contract } from '@/api/client';
import type { Basis } from '@/model/basis';
import { levelOf } from '@/model/clickKind';
import { once } from '@/model/secondPress';
import { deskNow } from '@/stream/store';
import { openByButton } from './openByButton';

export interface Quick {
    words: string;
    side: 'buy' | 'sell';
    kind: 'market' | 'limit';
    at: 'bid' | 'ask';
}

export const QUICK: Record<string, Quick> = {
    'buy-market': { words: 'Buy market', side: 'buy', kind: 'market', at: 'ask' },
    'sell-market': { words: 'Sell market', side: 'sell', kind: 'market', at: 'bid' },
    'join-bid': { words: 'Join bid', side: 'buy', kind: 'limit', at: 'bid' },
    'join-ask': { words: 'Join ask', side: 'sell', kind: 'limit', at: 'ask' },
    'take-ask': { words: 'Take ask', side: 'buy', kind: 'limit', at: 'ask' },
    'take-bid': { words: 'Take bid', side: 'sell', kind: 'limit', at: 'bid' },
};

export const QUICK_NAMES: [name: string, words: string][] = [
    ['buy-market', 'Buy market'],
    ['sell-market', 'Sell market'],
    ['join-bid', 'Join bid'],
    ['join-ask', 'Join ask'],
    ['take-ask', 'Take ask'],
    ['take-bid', 'Take bid'],
];

/** Where one of them stands now; null where that side of the market is empty. */
export function quickTick(quick: Quick, code: string): number | null {
    const book = deskNow().books[code];
    return (quick.at === 'bid' ? book?.bestBid : book?.bestAsk) ?? null;
}

/** @param at when it was pressed: the event's time stamp, ms */
export function pressQuick(name: string, contract: Contract, tick: number, basis: Basis, at: number): void {
    const quick = QUICK[name];
    if (!quick) return;
    const level = quick.kind === 'market' ? { kind: quick.kind } : levelOf(contract, quick.kind, tick, quick.side);
    once(`${contract.code} ${name}`, `${quick.side} ${basis.lots} ${quick.kind}`, () =>
        openByButton({ side: quick.side, ...level }, quick.kind === 'market' ? null : tick, basis),
    )(at);
}
