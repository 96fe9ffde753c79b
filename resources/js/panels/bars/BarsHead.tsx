import type { ReactNode } from 'react';
import type { Bars } from '@/api/client';
import { SIZES, setBars, sizeWords, useBarsView } from '@/model/barsView';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { WORDS } from './words';

interface Props {
    /** says which contract it shows, and changes that */
    pin: ReactNode;
    found: Bars | null;
    /** of the bar, or the press, under the pointer */
    says: string;
    /** null where the newest bar is in sight */
    toNow: (() => void) | null;
}

/** What ends a bar, how far bars reach, and what is under the pointer. */
export function BarsHead({ pin, found, says, toNow }: Props) {
    const { by, size } = useBarsView();
    return (
        <div className="flex h-24 items-center gap-10 overflow-hidden px-12 text-small whitespace-nowrap text-soft">
            {pin}
            <Select
                look="plain"
                aria-label="What ends a bar"
                value={by}
                onChange={(event) => {
                    const to = event.target.value as Bars['by'];
                    setBars({ by: to, size: SIZES[to][2] ?? 60 });
                }}
            >
                <option value="time">by time</option>
                <option value="trades">by trades</option>
                <option value="volume">by volume</option>
                <option value="range">by range</option>
            </Select>
            <Select look="plain" aria-label="Size of a bar" value={size} onChange={(event) => setBars({ size: +event.target.value })}>
                {SIZES[by].map((one) => (
                    <option key={one} value={one}>
                        {sizeWords(by, one)}
                    </option>
                ))}
            </Select>
            <span data-field="atr" title={WORDS.averageTrueRangeMeans}>
                average true range{' '}
                {found?.average_true_range_ticks ? `${found.average_true_range} · ${found.average_true_range_ticks} ticks` : '—'}
            </span>
            <span className="truncate text-ink" data-field="bar">
                {says}
            </span>
            {toNow && (
                <Button tone="small" onClick={toNow}>
                    to now
                </Button>
            )}
        </div>
    );
}
