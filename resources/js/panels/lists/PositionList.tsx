import type { ColumnDef } from '@tanstack/react-table';
import type { Position } from '@/api/client';
import { chooseContract } from '@/model/choices';
import { writeExact } from '@/model/prices';
import { contractOf } from '@/model/writing';
import { LiveTable } from './LiveTable';

const money = (position: Position, amount: string, signed = true): string =>
    `${writeExact(amount, contractOf(position.contract)?.minor_unit ?? 2, signed)} ${position.currency}`;

const protectedWords = (position: Position): string => {
    const lots = Math.abs(position.quantity);
    return lots === 0 ? '—' : `${position.protected} of ${lots}`;
};

const columns: ColumnDef<Position>[] = [
    { id: 'contract', header: 'Contract', accessorKey: 'contract', meta: { width: '80px' } },
    { id: 'position', header: 'Position', accessorKey: 'quantity', cell: ({ row }) => row.original.words, meta: { width: '88px' } },
    {
        id: 'average',
        header: 'Average',
        accessorKey: 'average_level',
        cell: ({ row }) => row.original.average_words ?? '—',
        meta: { width: '96px', number: true },
    },
    {
        id: 'open',
        header: 'Open P/L',
        accessorFn: (position) => Number(position.open_money),
        cell: ({ row }) => money(row.original, row.original.open_money),
        meta: { width: '128px', number: true },
    },
    {
        id: 'ticks',
        header: 'Ticks a lot',
        accessorFn: ({ open_words }) => Number.parseFloat(open_words.ticks),
        cell: ({ row }) => row.original.open_words.ticks.split(' ')[0] || '—',
        meta: { width: '76px', number: true },
    },
    {
        id: 'percent',
        header: '% of margin',
        accessorFn: ({ open_words }) => Number.parseFloat(open_words.percent ?? ''),
        cell: ({ row }) => row.original.open_words.percent ?? '—',
        meta: { width: '84px', number: true },
    },
    {
        id: 'r',
        header: 'R',
        accessorFn: ({ open_words }) => Number.parseFloat(open_words.r ?? ''),
        cell: ({ row }) => row.original.open_words.r ?? '—',
        meta: { width: '72px', number: true },
    },
    {
        id: 'risk',
        header: 'Risk from here',
        accessorFn: (position) => Number(position.risk_from_here),
        cell: ({ row: { original: position } }) =>
            position.unprotected > 0 ? 'no limit' : money(position, position.risk_from_here, false),
        meta: { width: '128px', number: true },
    },
    { id: 'protected', header: 'Protected', accessorFn: protectedWords, meta: { width: '88px', number: true } },
    {
        id: 'realised',
        header: 'Realised',
        accessorFn: (position) => Number(position.realised),
        cell: ({ row }) => money(row.original, row.original.realised),
        meta: { width: '128px', number: true },
    },
    // What is left over stands behind the figures, not between them.
    { id: 'rest', header: () => null, enableSorting: false, cell: () => null, meta: { width: 'minmax(0, 1fr)' } },
];

/** What is open, and what was traded today. Enter puts the contract on the ladder. */
export function PositionList({ rows }: { rows: Position[] }) {
    return (
        <LiveTable
            label="Positions"
            columns={columns}
            rows={rows}
            idOf={(position) => position.contract}
            empty="No position yet."
            onKey={(position, key) => {
                if (key !== 'Enter') return false;
                chooseContract(position.contract);
                return true;
            }}
        />
    );
}
