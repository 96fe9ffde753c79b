import type { ColumnDef } from '@tanstack/react-table';
import { useMemo } from 'react';
import type { Order } from '@/api/client';
import { chooseOrder } from '@/desk/chosen';
import { LiveTable } from '@/ui/LiveTable';
import { clock, kindOf, priceOf } from './writing';

const orderColumns: ColumnDef<Order>[] = [
    { id: 'time', header: 'Time', accessorKey: 'created_at', cell: ({ row }) => clock(row.original.created_at), meta: { width: '104px' } },
    { id: 'contract', header: 'Contract', accessorKey: 'contract', meta: { width: '72px' } },
    { id: 'order', header: 'Order', accessorFn: kindOf, meta: { width: '104px' } },
    {
        id: 'lots',
        header: 'Lots',
        accessorKey: 'leaves',
        cell: ({ row: { original: order } }) => (order.filled > 0 ? `${order.leaves} of ${order.quantity}` : order.leaves),
        meta: { width: '64px', number: true },
    },
    {
        id: 'price',
        header: 'Price',
        accessorKey: 'level',
        cell: ({ row }) => priceOf(row.original.contract, row.original.level),
        meta: { width: '80px', number: true },
    },
    { id: 'ahead', header: 'Ahead', accessorKey: 'ahead', cell: ({ row }) => row.original.ahead ?? '—', meta: { width: '60px', number: true } },
    { id: 'why', header: 'Why', accessorKey: 'why', meta: { width: 'minmax(120px, 1fr)' } },
    { id: 'state', header: 'State', accessorKey: 'state', meta: { width: '112px' } },
];

/** Orders that are not done, newest first. Enter chooses one on its ladder, Delete cancels it. */
export function WorkingList({ rows, onCancel }: { rows: Order[]; onCancel: (id: number) => void }) {
    const columns = useMemo<ColumnDef<Order>[]>(
        () => [
            ...orderColumns,
            {
                id: 'cancel',
                header: () => <span className="sr-only">Cancel</span>,
                enableSorting: false,
                cell: ({ row }) => (
                    <button type="button" tabIndex={-1} onClick={() => onCancel(row.original.id)} aria-label={`Cancel order ${row.original.id}`}>
                        cancel
                    </button>
                ),
                meta: { width: '64px' },
            },
        ],
        [onCancel],
    );
    return (
        <LiveTable
            label="Working orders"
            columns={columns}
            rows={rows}
            idOf={(order) => String(order.id)}
            empty="Nothing is working. A click on the ladder or Buy at / Sell at sends an order."
            onKey={(order, key) => {
                if (key === 'Delete') onCancel(order.id);
                else if (key === 'Enter') chooseOrder(order.id);
                else return false;
                return true;
            }}
        />
    );
}
