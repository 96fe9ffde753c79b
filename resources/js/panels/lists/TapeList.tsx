import type { ColumnDef } from '@tanstack/react-table';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import type { Contract } from '@/api/client';
import { writePrice } from '@/model/prices';
import { clock } from '@/model/writing';
import type { TapeLine } from '@/stream/prints';
import { fetchTape, tapeOf, useDesk } from '@/stream/store';
import { useEvery } from '@/ui/useEvery';
import { LiveTable } from './LiveTable';

/** Lines that are listed; what is older is in the bars. */
const LISTED = 200;
const KEY = 'lotrik.tape';

interface Sizes {
    /** smaller lines are left out */
    least: number;
    /** lines of this size are kept in a list of their own */
    big: number;
}

function useSizes() {
    const [sizes, setSizes] = useState<Sizes>(() => ({ least: 1, big: 20, ...JSON.parse(localStorage.getItem(KEY) ?? '{}') }));
    const set = (part: Partial<Sizes>) => {
        const now = { ...sizes, ...part };
        localStorage.setItem(KEY, JSON.stringify(now));
        setSizes(now);
    };
    return [sizes, set] as const;
}

interface Line extends TapeLine {
    own: boolean;
}

/** Time and sales of the contract on the ladder: prints of one moment and side are one line, big ones stay longer beside it. */
export function TapeList({ contract, pin }: { contract: Contract; pin: ReactNode }) {
    const { code } = contract;
    const [{ least, big }, set] = useSizes();
    const moment = useEvery(150);
    const fills = useDesk((desk) => desk.fills);
    const epoch = useDesk((desk) => desk.epoch);
    const [begun, setBegun] = useState('');
    useEffect(() => {
        fetchTape(code)
            .then(() => setBegun(`${code} ${epoch}`))
            .catch(() => undefined);
    }, [code, epoch]);
    // biome-ignore lint/correctness/useExhaustiveDependencies: the tape lies beside the store and is looked at six times a second
    const [all, large] = useMemo(() => {
        const own = new Set(fills.filter((fill) => fill.contract === code).map((fill) => fill.print));
        const isOwn = ({ first, last }: TapeLine) => {
            for (let number = first; own.size > 0 && number <= last; number++) if (own.has(number)) return true;
            return false;
        };
        const newest = (from: number): Line[] => {
            const found: Line[] = [];
            const lines = tapeOf(code);
            for (let at = lines.length - 1; at >= 0 && found.length < LISTED; at--) {
                const line = lines[at];
                if (line && line.size >= from) found.push({ ...line, own: isOwn(line) });
            }
            return found;
        };
        return [newest(least), newest(big)];
    }, [moment, fills, code, least, big, begun]);
    const columns = useMemo(() => columnsFor(contract), [contract]);
    const list = (label: string, rows: Line[], empty: string) => (
        <LiveTable label={label} columns={columns} rows={rows} recycles tight idOf={(line) => String(line.first)} empty={empty} />
    );
    return (
        <div className="tape">
            <div className="tape-sizes">
                {pin}
                <Size label="from" value={least} set={(value) => set({ least: value })} />
                <Size label="big from" value={big} set={(value) => set({ big: value })} />
            </div>
            {list(`Tape of ${code}`, all, 'Nothing has traded yet.')}
            {list(`Big prints of ${code}`, large, `Nothing of ${big} lots or more yet.`)}
        </div>
    );
}

function Size({ label, value, set }: { label: string; value: number; set: (value: number) => void }) {
    return (
        <label>
            {label}{' '}
            <input
                type="number"
                min={1}
                max={9999}
                value={value}
                onChange={(event) => event.target.validity.valid && event.target.value !== '' && set(event.target.valueAsNumber)}
            />{' '}
            lots
        </label>
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
            cell: ({ row }) => <span className={row.original.aggressor === 'buy' ? 'taken bought' : 'taken'}>{row.original.size}</span>,
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
