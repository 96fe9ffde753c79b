import type { Contract } from '@/api/client';
import { useButtonsSend } from '@/commands/openByButton';
import { pressQuick, QUICK } from '@/commands/quick';
import { useBasis } from '@/model/basis';
import { showKey } from '@/model/keymap';
import { writePrice } from '@/model/prices';
import { useSettings } from '@/model/settings';
import { useDesk } from '@/stream/store';
import { OrderButton } from '@/ui/OrderButton';

/** One press for what is sent most, each with the price that it is about: which of them, and in what order, is a setting. */
export function QuickRow({ contract }: { contract: Contract }) {
    const basis = useBasis(contract.code);
    const sends = useButtonsSend();
    const keys = useSettings((settings) => settings.keys.keys);
    const row = useSettings((settings) => settings.entry.quick_row);
    const bid = useDesk((desk) => desk.books[contract.code]?.bestBid ?? null);
    const ask = useDesk((desk) => desk.books[contract.code]?.bestAsk ?? null);
    return (
        <div className="grid grid-cols-2 gap-6 short:gap-x-4 short:gap-y-3">
            {row.map((name) => {
                const quick = QUICK[name];
                if (!quick) return null;
                const tick = quick.at === 'bid' ? bid : ask;
                return (
                    <OrderButton
                        tone="quick"
                        key={name}
                        label={
                            <span className="grid text-left leading-14">
                                {quick.words}{' '}
                                <span className="font-mono">
                                    {quick.kind === 'market' && `${quick.at} `}
                                    {tick === null ? '—' : writePrice(contract, tick)}
                                    {!sends && <small className="font-text"> draft</small>}
                                </span>
                            </span>
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
