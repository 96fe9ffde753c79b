import type { ColumnDef } from '@tanstack/react-table';
import type { Position } from '@/api/client';
import { closePosition, flatten } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { chooseContract } from '@/model/choices';
import { writeExact } from '@/model/prices';
import { contractOf } from '@/model/writing';
import { deskNow } from '@/stream/store';
import { Button } from '@/ui/Button';
import { useEvery } from '@/ui/useEvery';
import { LiveTable } from './LiveTable';
import { WORDS } from './words';

const money = (position: Position, amount: string, signed = true): string =>
    `${writeExact(amount, contractOf(position.contract)?.minor_unit ?? 2, signed)} ${position.currency}`;

const protectedWords = (position: Position): string => {
    const lots = Math.abs(position.quantity);
    return lots === 0 ? '—' : `${position.protected} of ${lots}`;
};

/** How long it has been open, by the market's clock. */
function InTrade({ since }: { since: string | null }) {
    useEvery(1000);
    const clock = deskNow().clock;
    if (since === null || !clock) return '—';
    const now = clock.at + (deskNow().feed === 'live' ? performance.now() - clock.heard : 0);
    const seconds = Math.max(0, Math.floor((now - Date.parse(since)) / 1000));
    const two = (count: number) => String(count).padStart(2, '0');
    const minutes = Math.floor(seconds / 60);
    return minutes < 60 ? `${minutes}:${two(seconds % 60)}` : `${Math.floor(minutes / 60)} h ${two(minutes % 60)}`;
}

/** One press each: all of it at the market, or flatten, which cancels what works too. */
function WaysOut({ contract }: { contract: string }) {
    const at = groundOf(contract);
    return (
        <span className="flex gap-8">
            <Button
                tone="cell"
                tabIndex={-1}
                data-name="close-position"
                aria-label={WORDS.closeAllOf(contract)}
                onClick={() => closePosition(at)}
            >
                close
            </Button>
            <Button
                tone="cell"
                tabIndex={-1}
                data-name="flatten-position"
                aria-label={WORDS.flattenAllOf(contract)}
                onClick={() => void flatten(at)}
            >
                flatten
            </Button>
        </span>
    );
}

const columns: ColumnDef<Position>[] = [
    {
        id: 'contract',
        header: 'Contract',
        accessorKey: 'contract',
        cell: ({ row }) => (
            <Button tone="cell" tabIndex={-1} onClick={() => chooseContract(row.original.contract)}>
                {row.original.contract}
            </Button>
        ),
        meta: { width: '64px' },
    },
    { id: 'position', header: 'Position', accessorKey: 'quantity', cell: ({ row }) => row.original.words, meta: { width: '60px' } },
    {
        id: 'average',
        header: 'Average',
        accessorKey: 'average_level',
        cell: ({ row }) => row.original.average_words ?? '—',
        meta: { width: '80px', number: true },
    },
    {
        id: 'in-trade',
        header: 'In trade',
        accessorFn: ({ open_words }) => open_words.since ?? '',
        cell: ({ row }) => <InTrade since={row.original.open_words.since} />,
        meta: { width: '56px', number: true },
    },
    {
        id: 'open',
        header: 'Open P/L',
        accessorFn: (position) => Number(position.open_money),
        cell: ({ row }) => money(row.original, row.original.open_money),
        meta: { width: '96px', number: true },
    },
    {
        id: 'ticks',
        header: 'Ticks a lot',
        accessorFn: ({ open_words }) => Number.parseFloat(open_words.ticks),
        cell: ({ row }) => row.original.open_words.ticks.split(' ')[0] || '—',
        meta: { width: '68px', number: true },
    },
    {
        id: 'so-far',
        header: 'Best, worst',
        accessorFn: ({ open_words }) => Number.parseFloat(open_words.best ?? ''),
        cell: ({ row: { original: position } }) =>
            position.open_words.best === null ? '—' : `${position.open_words.best}, ${position.open_words.worst}`,
        meta: { width: '88px', number: true },
    },
    {
        id: 'percent',
        header: '% margin',
        accessorFn: ({ open_words }) => Number.parseFloat(open_words.percent ?? ''),
        cell: ({ row }) => row.original.open_words.percent ?? '—',
        meta: { width: '68px', number: true },
    },
    {
        id: 'r',
        header: 'R',
        accessorFn: ({ open_words }) => Number.parseFloat(open_words.r ?? ''),
        cell: ({ row }) => row.original.open_words.r ?? '—',
        meta: { width: '60px', number: true },
    },
    {
        id: 'risk',
        header: 'Risk from here',
        accessorFn: (position) => Number(position.risk_from_here),
        cell: ({ row: { original: position } }) =>
            position.unprotected > 0 ? 'no limit' : money(position, position.risk_from_here, false),
        meta: { width: '96px', number: true },
    },
    { id: 'protected', header: 'Protected', accessorFn: protectedWords, meta: { width: '64px', number: true } },
    {
        id: 'realised',
        header: 'Realised',
        accessorFn: (position) => Number(position.realised),
        cell: ({ row }) => money(row.original, row.original.realised),
        meta: { width: '96px', number: true },
    },
    {
        id: 'ways-out',
        header: () => <span className="sr-only">{WORDS.waysOut}</span>,
        enableSorting: false,
        cell: ({ row: { original: position } }) => position.quantity !== 0 && <WaysOut contract={position.contract} />,
        // What is left over stands behind the figures, not between them.
        meta: { width: 'minmax(104px, 1fr)' },
    },
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
