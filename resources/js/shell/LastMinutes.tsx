import { useState } from 'react';
import { cancelAll, flatten } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { useDesk } from '@/stream/store';
import { OrderButton } from '@/ui/OrderButton';
import { WORDS } from './words';

/** What is open or works in a contract whose session ends within minutes: cancelled, flattened or kept in one press each. */
export function LastMinutes() {
    // Kept: not said again until the next of the three times.
    const [kept, setKept] = useState<Record<string, number>>({});
    const closing = useDesk(({ hours, positions, orders }) => {
        const soon = Object.entries(hours)
            .map(([code, { closes_in }]) => ({
                code,
                minutes: closes_in,
                lots: positions[code]?.quantity ?? 0,
                works: [...orders.values()].filter((order) => order.contract === code).length,
            }))
            .filter(({ minutes, lots, works }) => minutes !== null && (lots !== 0 || works > 0));
        // As text, so that it is the same for as long as it says the same.
        return JSON.stringify(soon);
    });
    const all = JSON.parse(closing) as { code: string; minutes: number; lots: number; works: number }[];
    const said = all.filter(({ code, minutes }) => kept[code] !== stage(minutes));
    const [first] = said;
    if (!first) return null;
    const { code, minutes, lots, works } = first;
    const ground = groundOf(code);
    return (
        <div className="flex h-30 items-center gap-10 bg-amber px-14 font-bold text-on-amber" role="alert" data-field="last-minutes">
            <span className="truncate">{WORDS.closesIn(code, minutes, lots, works, said.length - 1)}</span>
            <span className="flex-1" />
            <OrderButton tone="small" label="Flatten" disabled={lots === 0} act={() => void flatten(ground)} name="close-flatten" />
            <OrderButton tone="small" label="Cancel orders" disabled={works === 0} act={() => void cancelAll(ground)} name="close-cancel" />
            <OrderButton
                tone="small"
                label="Keep"
                act={() => setKept((before) => ({ ...before, [code]: stage(minutes) }))}
                name="close-keep"
            />
        </div>
    );
}

/** 15, 5 and 1 minutes before the close are said anew; what is kept is kept until the next of them. */
const stage = (minutes: number): number => (minutes <= 1 ? 1 : minutes <= 5 ? 5 : 15);
