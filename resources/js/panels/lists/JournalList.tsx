import type { ColumnDef } from '@tanstack/react-table';
import { moment } from '@/model/writing';
import type { Notice } from '@/stream/store';
import { LiveTable } from './LiveTable';
import { WORDS } from './words';

const columns: ColumnDef<Notice>[] = [
    { id: 'time', header: 'Time', accessorKey: 'time', cell: ({ row }) => moment(row.original.time), meta: { width: '118px' } },
    {
        id: 'contract',
        header: 'Contract',
        accessorKey: 'contract',
        cell: ({ row }) => row.original.contract ?? '',
        meta: { width: '72px' },
    },
    { id: 'words', header: 'What happened', accessorKey: 'words', meta: { width: 'minmax(160px, 1fr)' } },
];

/** Everything that was written down, newest first, in sentences. */
export function JournalList({ rows }: { rows: Notice[] }) {
    return (
        <LiveTable
            label="Journal"
            columns={columns}
            rows={rows}
            recycles
            idOf={(notice) => String(notice.sequence)}
            empty={WORDS.journalEmpty}
        />
    );
}
