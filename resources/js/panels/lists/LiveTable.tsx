import {
    type ColumnDef,
    flexRender,
    getCoreRowModel,
    getSortedRowModel,
    type RowData,
    type SortingState,
    useReactTable,
    type VisibilityState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { type KeyboardEvent, type MouseEvent, useId, useLayoutEffect, useRef, useState } from 'react';
import { say } from '@/stream/store';
import { SETTLE_MS } from '@/ui/settle';

declare module '@tanstack/react-table' {
    interface ColumnMeta<TData extends RowData, TValue> {
        /** a CSS grid track */
        width: string;
        /** figures stand on the right */
        number?: boolean;
    }
}

const ROW_HEIGHT = 22;
/** Between two columns, and beside the first and the last, in pixels. */
const GAPS = { usual: 14, tight: 8 };
const SORTS = { asc: 'ascending', desc: 'descending' } as const;

interface Props<Row> {
    label: string;
    columns: ColumnDef<Row>[];
    rows: Row[];
    idOf: (row: Row) => string;
    empty: string;
    /** cells hold no state of their own: rows that come into sight take over the elements of those that left it */
    recycles?: boolean;
    /** columns stand closer together */
    tight?: boolean;
    /** keys beyond moving about; gives back whether it took the key */
    onKey?: (row: Row, key: string) => boolean;
    /** what a double click does */
    onOpen?: (row: Row) => void;
}

const JUMPS: Record<string, (at: number, last: number, page: number) => number> = {
    ArrowDown: (at) => at + 1,
    ArrowUp: (at) => at - 1,
    PageDown: (at, _last, page) => at + page,
    PageUp: (at, _last, page) => at - page,
    Home: () => 0,
    End: (_at, last) => last,
};

/** A choice about one list, kept from one visit to the next. */
function useKept<State>(what: string, name: string, first: State) {
    const key = `lotrik.${what}.${name}`;
    const [state, setState] = useState<State>(() => JSON.parse(localStorage.getItem(key) ?? 'null') ?? first);
    const keep = (to: State | ((old: State) => State)) => {
        const now = typeof to === 'function' ? (to as (old: State) => State)(state) : to;
        localStorage.setItem(key, JSON.stringify(now));
        setState(now);
    };
    return [state, keep] as const;
}

/**
 * Rows change places when one of them ends, or where they are sorted by what moves: a button that has just come under
 * the pointer takes no press.
 */
function useStanding(places: Map<string, number>) {
    const before = useRef(places);
    const movedAt = useRef(Number.NEGATIVE_INFINITY);
    const drops = useRef(false);
    useLayoutEffect(() => {
        if ([...places].some(([id, at]) => (before.current.get(id) ?? at) !== at)) movedAt.current = performance.now();
        before.current = places;
    });
    return {
        onPointerDownCapture: (event: MouseEvent<HTMLElement>) => {
            drops.current = performance.now() - movedAt.current < SETTLE_MS && (event.target as HTMLElement).closest('button') !== null;
            if (!drops.current) return;
            event.stopPropagation();
            say('Not done: the rows had just moved.');
        },
        onClickCapture: (event: MouseEvent<HTMLElement>) => {
            if (drops.current) event.stopPropagation();
            drops.current = false;
        },
    };
}

/** A list that keeps up with thousands of rows: only those in sight are drawn. Sorted by its heads, walked by the arrow keys. */
export function LiveTable<Row>({ label, columns, rows, idOf, empty, onKey, onOpen, recycles = false, tight = false }: Props<Row>) {
    const [sorting, setSorting] = useKept<SortingState>('sort', label, []);
    const [columnVisibility, setVisibility] = useKept<VisibilityState>('columns', label, {});
    const [focused, setFocused] = useState<string | null>(null);
    const scroller = useRef<HTMLDivElement>(null);
    const id = useId();
    const table = useReactTable({
        data: rows,
        columns,
        getRowId: idOf,
        state: { sorting, columnVisibility },
        onSortingChange: setSorting,
        onColumnVisibilityChange: setVisibility,
        getCoreRowModel: getCoreRowModel(),
        getSortedRowModel: getSortedRowModel(),
    });
    const sorted = table.getRowModel().rows;
    const virtual = useVirtualizer({
        count: sorted.length,
        getScrollElement: () => scroller.current,
        estimateSize: () => ROW_HEIGHT,
        overscan: 4,
        useFlushSync: false,
    });
    const items = virtual.getVirtualItems();
    const widths = table.getVisibleLeafColumns().map((column) => column.columnDef.meta?.width ?? '1fr');
    const gap = GAPS[tight ? 'tight' : 'usual'];
    const tracks = {
        columnGap: gap,
        gridTemplateColumns: widths.map((width) => width.replace(/\d+px/g, 'calc($& * var(--letters))')).join(' '),
    };
    // A panel that is narrower than its columns is scrolled sideways.
    const least = widths.reduce((sum, width) => sum + (Number.parseInt(width.replace('minmax(', ''), 10) || 0) + gap, 2 * GAPS.usual - gap);
    const room = { minWidth: `calc(${least}px * var(--letters))` };
    const at = sorted.findIndex((row) => row.id === focused);
    const standing = useStanding(new Map(items.map((item) => [sorted[item.index]?.id ?? '', item.index])));

    const press = (event: KeyboardEvent) => {
        const jump = JUMPS[event.key];
        const row = sorted[at];
        if (jump) {
            const last = sorted.length - 1;
            const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 0) / ROW_HEIGHT) - 1);
            const to = Math.max(0, Math.min(last, jump(at, last, page)));
            setFocused(sorted[to]?.id ?? null);
            if (last >= 0) virtual.scrollToIndex(to);
        } else if (!row || !onKey?.(row.original, event.key)) {
            return;
        }
        event.preventDefault();
        event.stopPropagation();
    };

    return (
        <div className="live-place">
            <details className="columns">
                <summary>columns</summary>
                {table.getAllLeafColumns().map(
                    (column) =>
                        typeof column.columnDef.header === 'string' && (
                            <label key={column.id}>
                                <input type="checkbox" checked={column.getIsVisible()} onChange={column.getToggleVisibilityHandler()} />{' '}
                                {column.columnDef.header}
                            </label>
                        ),
                )}
            </details>
            <div
                role="grid"
                aria-label={label}
                aria-rowcount={sorted.length + 1}
                className="live-table"
                tabIndex={0}
                aria-activedescendant={at < 0 ? undefined : `${id}-${focused}`}
                onKeyDown={press}
            >
                <div role="row" className="live-head" style={{ ...tracks, ...room }} aria-rowindex={1}>
                    {table.getFlatHeaders().map((head) => {
                        const sort = head.column.getIsSorted();
                        return (
                            <div
                                key={head.id}
                                role="columnheader"
                                className={clsx(head.column.columnDef.meta?.number && 'number')}
                                aria-sort={sort ? SORTS[sort] : 'none'}
                            >
                                {head.column.getCanSort() ? (
                                    <button type="button" tabIndex={-1} onClick={head.column.getToggleSortingHandler()}>
                                        {flexRender(head.column.columnDef.header, head.getContext())}
                                        {sort && <span aria-hidden="true">{sort === 'asc' ? ' ↑' : ' ↓'}</span>}
                                    </button>
                                ) : (
                                    flexRender(head.column.columnDef.header, head.getContext())
                                )}
                            </div>
                        );
                    })}
                </div>
                <div role={sorted.length > 0 ? 'rowgroup' : 'presentation'} className="live-body" style={room} ref={scroller} {...standing}>
                    {sorted.length === 0 && (
                        <p className="empty" role="presentation">
                            {empty}
                        </p>
                    )}
                    <div className="live-room" role="presentation" style={{ height: virtual.getTotalSize() }}>
                        {items.map((item) => {
                            const row = sorted[item.index];
                            if (!row) return null;
                            return (
                                // biome-ignore lint/a11y/useKeyWithClickEvents: the grid walks by key
                                <div
                                    key={recycles ? item.index % items.length : row.id}
                                    id={`${id}-${row.id}`}
                                    role="row"
                                    tabIndex={-1}
                                    data-row={row.id}
                                    aria-rowindex={item.index + 2}
                                    aria-selected={row.id === focused}
                                    className="live-row"
                                    style={{ ...tracks, transform: `translateY(${item.start}px)` }}
                                    onClick={() => setFocused(row.id)}
                                    onDoubleClick={() => onOpen?.(row.original)}
                                >
                                    {row.getVisibleCells().map((cell) => (
                                        <div
                                            key={cell.column.id}
                                            role="gridcell"
                                            className={clsx(cell.column.columnDef.meta?.number && 'number')}
                                        >
                                            {flexRender(cell.column.columnDef.cell, cell.getContext())}
                                        </div>
                                    ))}
                                </div>
                            );
                        })}
                    </div>
                </div>
            </div>
        </div>
    );
}
