import type { ColumnDef } from '@tanstack/react-table';
import clsx from 'clsx';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import * as z from 'zod/mini';
import type { Contract } from '@/api/client';
import { writePrice } from '@/model/prices';
import { clock } from '@/model/writing';
import type { TapeLine } from '@/stream/prints';
import { useDesk, useMarket } from '@/stream/store';
import { createKept } from '@/ui/kept';
import { NumberField } from '@/ui/NumberField';
import { useEvery } from '@/ui/useEvery';
import { Beside } from './Beside';
import { LiveTable } from './LiveTable';
import { WORDS } from './words';

/** Lines that are listed; what is older is in the bars. */
const LISTED = 200;

const SIZE = { least: 1, most: 9999, unit: 'lots' };

interface Sizes {
    /** smaller lines are left out */
    least: number;
    /** lines of this size are kept in a list of their own */
    big: number;
}

const lots = z.int().check(z.positive());
const useSizes = createKept<Sizes>('tape', { least: lots, big: lots }, { least: 1, big: 20 });
const set = (part: Partial<Sizes>): void => useSizes.setState(part);

interface Line extends TapeLine {
    own: boolean;
}

/** Time and sales of the contract on the ladder: prints of one moment and side are one line, big ones stay longer beside it. */
export function TapeList({ contract, pin }: { contract: Contract; pin: ReactNode }) {
    const { code } = contract;
    const { prints } = useMarket();
    const { least, big } = useSizes();
    const moment = useEvery(150);
    const fills = useDesk((desk) => desk.fills);
    const epoch = useDesk((desk) => desk.epoch);
    const [begun, setBegun] = useState('');
    useEffect(() => {
        prints
            .fetch(code)
            .then(() => setBegun(`${code} ${epoch}`))
            .catch(() => undefined);
    }, [prints, code, epoch]);
    // biome-ignore lint/correctness/useExhaustiveDependencies: the tape lies beside the store and is looked at six times a second
    const [all, large] = useMemo(() => {
        const own = new Set(fills.filter((fill) => fill.contract === code).map((fill) => fill.print));
        const isOwn = ({ first, last }: TapeLine) => {
            for (let number = first; own.size > 0 && number <= last; number++) if (own.has(number)) return true;
            return false;
        };
        const newest = (from: number): Line[] => {
            const found: Line[] = [];
            const lines = prints.of(code);
            for (let at = lines.length - 1; at >= 0 && found.length < LISTED; at--) {
                const line = lines[at];
                if (line && line.size >= from) found.push({ ...line, own: isOwn(line) });
            }
            return found;
        };
        return [newest(least), newest(big)];
    }, [moment, fills, code, least, big, begun, prints]);
    const columns = useMemo(() => columnsFor(contract), [contract]);
    const list = (label: string, kept: string, rows: Line[], empty: string) => (
        <LiveTable
            label={label}
            kept={kept}
            columns={columns}
            rows={rows}
            recycles
            tight
            idOf={(line) => String(line.first)}
            empty={empty}
        />
    );
    return (
        <Beside
            lists={2}
            tools={
                <>
                    {pin}
                    <NumberField label="from" value={least} {...SIZE} set={(value) => set({ least: value })} />
                    <NumberField label="big from" value={big} {...SIZE} set={(value) => set({ big: value })} />
                </>
            }
        >
            {list(WORDS.tapeOf(code), 'tape', all, 'Nothing has traded yet.')}
            {list(WORDS.bigPrintsOf(code), 'big prints', large, WORDS.noBigPrints(big))}
        </Beside>
    );
}

function columnsFor(contract: Contract): ColumnDef<Line>[] {
    const prices = ({ low, high }: TapeLine) =>
        low === high ? writePrice(contract, low) : `${writePrice(contract, low)}–${writePrice(contract, high)}`;
    return [
        {
            id: 'time',
            header: 'Time',
            accessorKey: 'at',
            cell: ({ row }) => clock(new Date(row.original.at).toISOString()),
            meta: { width: '92px' },
        },
        { id: 'side', header: 'Taken', accessorFn: (line) => (line.aggressor === 'buy' ? 'bought' : 'sold'), meta: { width: '50px' } },
        {
            id: 'lots',
            header: 'Lots',
            accessorKey: 'size',
            cell: ({ row }) => (
                <span
                    className={clsx(
                        'inline-block min-w-30 rounded-chip border border-stroke px-4 leading-16',
                        row.original.aggressor === 'buy' && 'bg-stroke text-raised',
                    )}
                >
                    {row.original.size}
                </span>
            ),
            meta: { width: '44px', number: true },
        },
        {
            id: 'price',
            header: 'Price',
            accessorKey: 'high',
            cell: ({ row }) => prices(row.original),
            meta: { width: '104px', number: true },
        },
        { id: 'own', header: 'Own', accessorFn: (line) => (line.own ? 'own' : ''), meta: { width: 'minmax(26px, 1fr)' } },
    ];
}
