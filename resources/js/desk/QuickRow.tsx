import type { Contract } from '@/api/client';
import { useDesk } from '@/stream/store';
import { OrderButton } from '@/ui/OrderButton';
import { useBasis } from './basis';
import { showKey } from './keymap';
import { useButtonsSend } from './openings';
import { writePrice } from './prices';
import { pressQuick, QUICK } from './quick';
import { useSettings } from './settings';

/** One press for what is sent most, each with the price that it is about: which of them, and in what order, is a setting. */
export function QuickRow({ contract }: { contract: Contract }) {
    const basis = useBasis(contract.code);
    const sends = useButtonsSend();
    const keys = useSettings((settings) => settings.keys.keys);
    const row = useSettings((settings) => settings.entry.quick_row);
    const bid = useDesk((desk) => desk.books[contract.code]?.bestBid ?? null);
    const ask = useDesk((desk) => desk.books[contract.code]?.bestAsk ?? null);
    return (
        <div className="pair quick">
            {row.map((name) => {
                const quick = QUICK[name];
                if (!quick) return null;
                const tick = quick.at === 'bid' ? bid : ask;
                return (
                    <OrderButton
                        key={name}
                        label={
                            <>
                                {quick.words} {tick === null ? '—' : writePrice(contract, tick)}
                                {!sends && <small> draft</small>}
                            </>
                        }
                        keyName={keys[name] ? showKey(keys[name]) : undefined}
                        act={(at) => tick !== null && pressQuick(name, contract, tick, basis, at)}
                        name={name}
                        disabled={tick === null}
                    />
                );
            })}
        </div>
    );
}
