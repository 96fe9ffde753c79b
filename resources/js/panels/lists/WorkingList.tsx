import type { ColumnDef } from '@tanstack/react-table';
import { useMemo } from 'react';
import type { Order } from '@/api/client';
import { chooseOrder } from '@/commands/chosen';
import { tieTo } from '@/commands/tie';
import { isoOf } from '@/model/moments';
import { typedNumber } from '@/model/typedNumber';
import { kindOf, moment, priceOf } from '@/model/writing';
import { useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { documentInFront } from '@/ui/windows';
import { EditCell } from './EditCell';
import { LiveTable } from './LiveTable';
import { WORDS } from './words';

/** The states of FIX in a trader's words. */
const STATES: Record<string, string> = {
    'pending-new': 'being sent',
    new: 'working',
    'partially-filled': 'part filled',
    'pending-replace': 'being changed',
    'pending-cancel': 'being cancelled',
};

const TIFS: Record<string, string> = { day: 'day', gtc: 'GTC', gtd: 'GTD', ioc: 'IOC', fok: 'FOK' };

/** A moment of the day on which the order was made by its time alone, any other with its date. */
const momentOf = (order: Order, at: string): string =>
    at.startsWith(order.created_at.slice(0, 10)) ? at.slice(11, 16) : at.slice(0, 16).replace('T', ' ');

/** When it is taken away by itself, if ever: at its cancel time or as its duration ends, whichever comes first. */
function untilOf(order: Order): string {
    const [first] = [order.cancel_at, order.tif === 'gtd' ? order.expires_at : null].filter((at) => at !== null).sort();
    return first ? `until ${momentOf(order, first)}` : '';
}

const stateOf = (order: Order): string => {
    if (order.held_until) return WORDS.heldUntil(order.held_until);
    const state = STATES[order.state] ?? order.state;
    if (order.wished && order.state !== 'pending-cancel') return WORDS.thenCancelled(state);
    const until = untilOf(order);
    // There is no room for both words, and what works until then works now.
    return until !== '' && order.state === 'new' ? until : `${state} ${until}`.trim();
};

/** Outside the session exits sleep: they act on its first trade. */
function State({ order }: { order: Order }) {
    const exits = useDesk((desk) => desk.hours[order.contract]?.exits);
    return (order.role === 'stop' || order.role === 'target' ? exits : null) ?? stateOf(order);
}

/** A stop-limit's limit has a column of its own. */
const levels = (order: Order, field: 'price' | 'trigger') => (
    <EditCell
        order={order}
        label={field}
        shown={priceOf(order.contract, order.level)}
        value={order[field] ?? ''}
        asks={(typed) => ({ [field]: typedNumber(typed) })}
    />
);

const orderColumns: ColumnDef<Order>[] = [
    { id: 'time', header: 'Time', accessorKey: 'created_at', cell: ({ row }) => moment(row.original.created_at), meta: { width: '118px' } },
    { id: 'contract', header: 'Contract', accessorKey: 'contract', meta: { width: '64px' } },
    { id: 'order', header: 'Order', accessorFn: kindOf, meta: { width: '104px' } },
    {
        id: 'lots',
        header: 'Lots',
        accessorKey: 'leaves',
        cell: ({ row: { original: order } }) => {
            const shown = order.filled > 0 ? `${order.leaves} of ${order.quantity}` : String(order.leaves);
            if (order.role === 'stop' || order.role === 'target') return shown;
            return (
                <EditCell
                    order={order}
                    label="lots"
                    shown={shown}
                    value={String(order.leaves)}
                    asks={(typed) => (/^\d+$/.test(typed) ? { quantity: order.filled + Number(typed) } : null)}
                />
            );
        },
        meta: { width: '64px', number: true },
    },
    {
        id: 'price',
        header: 'Price',
        accessorKey: 'level',
        cell: ({ row: { original: order } }) => levels(order, order.kind === 'limit' ? 'price' : 'trigger'),
        meta: { width: '72px', number: true },
    },
    {
        id: 'limit',
        header: 'Limit',
        accessorKey: 'price',
        cell: ({ row: { original: order } }) =>
            order.kind === 'stop-limit' && order.price !== null ? (
                <EditCell
                    order={order}
                    label="price"
                    shown={order.price}
                    value={order.price}
                    asks={(typed) => ({ price: typedNumber(typed) })}
                />
            ) : (
                '—'
            ),
        meta: { width: '72px', number: true },
    },
    {
        id: 'tif',
        header: 'Duration',
        accessorKey: 'tif',
        cell: ({ row: { original: order } }) =>
            order.role === 'stop' || order.role === 'target' ? (
                'its lots'
            ) : (
                <EditCell
                    order={order}
                    label="duration"
                    shown={TIFS[order.tif] ?? order.tif}
                    value={order.expires_at ?? order.tif}
                    asks={(typed) =>
                        typed === 'day' || typed === 'gtc' ? { tif: typed } : { tif: 'gtd', expires_at: isoOf(typed, order.contract) }
                    }
                />
            ),
        meta: { width: '64px' },
    },
    {
        id: 'ahead',
        header: 'Ahead',
        accessorKey: 'ahead',
        cell: ({ row }) => row.original.ahead ?? '—',
        meta: { width: '52px', number: true },
    },
    {
        id: 'why',
        header: 'Why',
        accessorFn: (order) =>
            [order.why, order.tag && `tag ${order.tag}`, order.tied && `${order.tied.kind.toUpperCase()} with ${order.tied.order}`]
                .filter(Boolean)
                .join(' · '),
        meta: { width: 'minmax(120px, 1fr)' },
    },
    {
        id: 'state',
        header: 'State',
        accessorFn: stateOf,
        cell: ({ row }) => <State order={row.original} />,
        meta: { width: 'minmax(104px, 0.7fr)' },
    },
];

/** By key what a press on the cell does. */
const edit = (id: number, label: string) =>
    documentInFront().querySelector<HTMLElement>(`[data-row="${id}"] [data-edit=${label}]`)?.click();

/** Orders that are not done, newest first. Enter chooses one on its ladder, Delete cancels it; E, P and U change lots, price and duration. */
export function WorkingList({ rows, onCancel }: { rows: Order[]; onCancel: (id: number) => void }) {
    const columns = useMemo<ColumnDef<Order>[]>(
        () => [
            ...orderColumns,
            {
                id: 'cancel',
                header: () => <span className="sr-only">Cancel</span>,
                enableSorting: false,
                cell: ({ row }) => (
                    <Button
                        tone="cell"
                        tabIndex={-1}
                        onClick={() => onCancel(row.original.id)}
                        aria-label={WORDS.cancelOrder(row.original.id)}
                    >
                        cancel
                    </Button>
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
            empty={WORDS.nothingWorking}
            onKey={(order, key) => {
                if (key === 'Delete') onCancel(order.id);
                else if (key === 'e') edit(order.id, 'lots');
                else if (key === 'p') edit(order.id, order.kind === 'limit' ? 'price' : 'trigger');
                else if (key === 'u') edit(order.id, 'duration');
                else if (key === 'Enter') tieTo(order.id) || chooseOrder(order.id);
                else return false;
                return true;
            }}
        />
    );
}
