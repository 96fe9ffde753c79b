import type { ColumnDef } from '@tanstack/react-table';
import type { Fill } from '@/api/client';
import { moment, priceOf } from '@/model/writing';
import { LiveTable } from './LiveTable';

const columns: ColumnDef<Fill>[] = [
    { id: 'time', header: 'Time', accessorKey: 'time', cell: ({ row }) => moment(row.original.time), meta: { width: '118px' } },
    { id: 'contract', header: 'Contract', accessorKey: 'contract', meta: { width: '72px' } },
    { id: 'side', header: 'Side', accessorFn: (fill) => (fill.side === 'buy' ? 'Bought' : 'Sold'), meta: { width: '72px' } },
    { id: 'lots', header: 'Lots', accessorKey: 'quantity', meta: { width: '56px', number: true } },
    {
        id: 'price',
        header: 'Price',
        accessorKey: 'level',
        cell: ({ row }) => priceOf(row.original.contract, row.original.level),
        meta: { width: '80px', number: true },
    },
    {
        id: 'slippage',
        header: 'Slippage',
        accessorKey: 'slippage_ticks',
        cell: ({ row: { original: fill } }) => (fill.slippage_ticks === 0 ? '0' : `${fill.slippage_ticks} · ${fill.slippage_money}`),
        meta: { width: '112px', number: true },
    },
    { id: 'fee', header: 'Fee', accessorKey: 'fee', meta: { width: '72px', number: true } },
    { id: 'for', header: 'Why', accessorFn: (fill) => fill.why ?? fill.role, meta: { width: 'minmax(80px, 1fr)' } },
];

/** What has filled, newest first. */
export function FillList({ rows }: { rows: Fill[] }) {
    return <LiveTable label="Fills" columns={columns} rows={rows} idOf={(fill) => String(fill.id)} empty="Nothing has filled yet." />;
}
