import type { Contract } from '@/api/client';
import { useDesk } from '@/stream/store';
import { OrderButton } from '@/ui/OrderButton';
import { useBasis } from './basis';
import { levelOf } from './clickKind';
import { openByButton, useButtonsSend } from './openings';
import { writePrice } from './prices';
import { once } from './secondPress';
import { useSettings } from './settings';

interface Quick {
    words: string;
    side: 'buy' | 'sell';
    kind: 'market' | 'limit';
    at: 'bid' | 'ask';
}

const QUICK: Record<string, Quick> = {
    'buy-market': { words: 'Buy at', side: 'buy', kind: 'market', at: 'ask' },
    'sell-market': { words: 'Sell at', side: 'sell', kind: 'market', at: 'bid' },
    'join-bid': { words: 'Join bid', side: 'buy', kind: 'limit', at: 'bid' },
    'join-ask': { words: 'Join ask', side: 'sell', kind: 'limit', at: 'ask' },
    'take-ask': { words: 'Take ask', side: 'buy', kind: 'limit', at: 'ask' },
    'take-bid': { words: 'Take bid', side: 'sell', kind: 'limit', at: 'bid' },
};

export const QUICK_NAMES: [name: string, words: string][] = [
    ['buy-market', 'Buy at market'],
    ['sell-market', 'Sell at market'],
    ['join-bid', 'Join bid'],
    ['join-ask', 'Join ask'],
    ['take-ask', 'Take ask'],
    ['take-bid', 'Take bid'],
];

/** One press for what is sent most, each with the price that it is about: which of them, and in what order, is a setting. */
export function QuickRow({ contract }: { contract: Contract }) {
    const basis = useBasis(contract.code);
    const sends = useButtonsSend();
    const row = useSettings((settings) => settings.entry.quick_row);
    const bid = useDesk((desk) => desk.books[contract.code]?.bestBid ?? null);
    const ask = useDesk((desk) => desk.books[contract.code]?.bestAsk ?? null);
    return (
        <div className="pair">
            {row.map((name) => {
                const quick = QUICK[name];
                if (!quick) return null;
                const tick = quick.at === 'bid' ? bid : ask;
                const level =
                    tick === null || quick.kind === 'market' ? { kind: quick.kind } : levelOf(contract, quick.kind, tick, quick.side);
                return (
                    <OrderButton
                        key={name}
                        label={
                            <>
                                {quick.words} {tick === null ? '—' : writePrice(contract, tick)}
                                {!sends && <small> draft</small>}
                            </>
                        }
                        act={once(`${contract.code} ${name}`, `${quick.side} ${basis.lots} ${quick.kind}`, () =>
                            openByButton({ side: quick.side, ...level }, quick.kind === 'market' ? null : tick, basis),
                        )}
                        name={name}
                        disabled={tick === null}
                    />
                );
            })}
        </div>
    );
}
