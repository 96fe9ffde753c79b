import {
    type ColumnDef,
    flexRender,
    getCoreRowModel,
    getSortedRowModel,
    type RowData,
    type SortingState,
    type Updater,
    useReactTable,
    type VisibilityState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { type KeyboardEvent, type MouseEvent, useId, useLayoutEffect, useRef, useState } from 'react';
import * as z from 'zod/mini';
import { createKept } from './kept';
import { Menu } from './Menu';
import { SETTLE_MS } from './settle';
import { useStillRows } from './stillRows';
import { WORDS } from './words';

declare module '@tanstack/react-table' {
    interface ColumnMeta<TData extends RowData, TValue> {
        /** a CSS grid track */
        width: string;
        /** figures stand on the right */
        number?: boolean;
    }
}

/** Widths grow with the letters. */
const rem = (pixels: number): string => `${pixels / 16}rem`;

const ROW_HEIGHT = 22;
/** Between two columns, and beside the first and the last, in pixels. */
const GAPS = { usual: 14, tight: 8 };
const SORTS = { asc: 'ascending', desc: 'descending' } as const;

export interface TableProps<Row> {
    label: string;
    /** the name that its order and columns are kept under, where that is another */
    kept?: string;
    columns: ColumnDef<Row>[];
    rows: Row[];
    idOf: (row: Row) => string;
    empty: string;
    /** told of a press that came just after the rows had changed places, and does nothing */
    dropped: () => void;
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

/** How each list was left, by its name. */
const useKeptLists = createKept<{ sort: Record<string, SortingState>; columns: Record<string, VisibilityState> }>(
    'lists',
    {
        sort: z.record(z.string(), z.array(z.object({ id: z.string(), desc: z.boolean() }))),
        columns: z.record(z.string(), z.record(z.string(), z.boolean())),
    },
    { sort: {}, columns: {} },
);

const UNSORTED: SortingState = [];
const ALL: VisibilityState = {};

const after = <State,>(change: Updater<State>, old: State): State =>
    typeof change === 'function' ? (change as (old: State) => State)(old) : change;

/**
 * Rows change places when one of them ends, or where they are sorted by what moves: a button that has just come under
 * the pointer takes no press.
 */
function useStanding(places: Map<string, number>, dropped: () => void) {
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
            dropped();
        },
        onClickCapture: (event: MouseEvent<HTMLElement>) => {
            if (drops.current) event.stopPropagation();
            drops.current = false;
        },
    };
}

/** A list that keeps up with thousands of rows: only those in sight are drawn. Sorted by its heads, walked by the arrow keys, up into the heads too. */
export function Table<Row>({
    label,
    kept,
    columns,
    rows,
    idOf,
    empty,
    dropped,
    onKey,
    onOpen,
    recycles = false,
    tight = false,
}: TableProps<Row>) {
    const name = kept ?? label;
    const sorting = useKeptLists((lists) => lists.sort[name] ?? UNSORTED);
    const columnVisibility = useKeptLists((lists) => lists.columns[name] ?? ALL);
    const [focused, setFocused] = useState<string | null>(null);
    // The head that the arrow keys have gone up to; Enter sorts by it.
    const [head, setHead] = useState<number | null>(null);
    const scroller = useRef<HTMLDivElement>(null);
    const id = useId();
    const [isPointed, setPointed] = useState(false);
    const still = useStillRows(rows, idOf, isPointed && !recycles);
    const table = useReactTable({
        data: still.rows,
        columns,
        getRowId: idOf,
        state: { sorting, columnVisibility },
        onSortingChange: (change) => useKeptLists.setState(({ sort }) => ({ sort: { ...sort, [name]: after(change, sorting) } })),
        onColumnVisibilityChange: (change) =>
            useKeptLists.setState(({ columns: all }) => ({ columns: { ...all, [name]: after(change, columnVisibility) } })),
        getCoreRowModel: getCoreRowModel(),
        getSortedRowModel: getSortedRowModel(),
    });
    const sorted = still.inPlace(table.getRowModel().rows);
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
        gridTemplateColumns: widths.map((width) => width.replace(/(\d+)px/g, (_, pixels) => rem(Number(pixels)))).join(' '),
    };
    // A panel that is narrower than its columns is scrolled sideways.
    const least = widths.reduce((sum, width) => sum + (Number.parseInt(width.replace('minmax(', ''), 10) || 0) + gap, 2 * GAPS.usual - gap);
    const room = { minWidth: rem(least) };
    const at = sorted.findIndex((row) => row.id === focused);
    const standing = useStanding(new Map(items.map((item) => [sorted[item.index]?.id ?? '', item.index])), dropped);

    const heads = table.getFlatHeaders();
    const inHeads = (key: string): boolean => {
        if (head === null) {
            if (key !== 'ArrowUp' || at > 0) return false;
            setHead(0);
        } else if (key === 'ArrowDown') {
            setHead(null);
            setFocused(sorted[0]?.id ?? null);
        } else if (key === 'ArrowLeft' || key === 'ArrowRight') {
            setHead(Math.max(0, Math.min(heads.length - 1, head + (key === 'ArrowLeft' ? -1 : 1))));
        } else if (key === 'Enter' || key === ' ') {
            if (heads[head]?.column.getCanSort()) heads[head].column.toggleSorting();
        } else {
            return false;
        }
        return true;
    };
    const press = (event: KeyboardEvent) => {
        const jump = JUMPS[event.key];
        const row = sorted[at];
        if (inHeads(event.key)) {
            // Done there.
        } else if (jump) {
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
        <div className="relative h-full">
            <Menu
                label="Columns"
                trigger={
                    // Over the corner of the heads, as small as can be: its name is for those who hear it.
                    <button
                        type="button"
                        className="absolute top-0 right-10 z-line cursor-pointer bg-raised px-4 text-body leading-20 text-soft pointer-coarse:px-10"
                        aria-label="Columns"
                        title="Columns"
                        data-part="columns"
                    >
                        …
                    </button>
                }
                choices={table.getAllLeafColumns().flatMap((column) =>
                    typeof column.columnDef.header === 'string'
                        ? [
                              {
                                  id: column.id,
                                  words: column.columnDef.header,
                                  checked: column.getIsVisible(),
                                  turn: (on: boolean) => column.toggleVisibility(on),
                              },
                          ]
                        : [],
                )}
            />
            {still.news > 0 && (
                <small
                    className="absolute top-0 right-40 z-line bg-amber px-6 leading-20 text-on-amber"
                    role="status"
                    data-field="rows-held"
                >
                    {WORDS.rowsHeld(still.news)}
                </small>
            )}
            <div
                role="grid"
                aria-label={label}
                aria-rowcount={sorted.length + 1}
                className="flex h-full flex-col overflow-x-auto font-mono text-small leading-22 tabular-nums focus-visible:-outline-offset-2"
                data-part="live-table"
                tabIndex={0}
                aria-activedescendant={head !== null ? `${id}-head-${head}` : at < 0 ? undefined : `${id}-${focused}`}
                onBlur={(event) => event.currentTarget.contains(event.relatedTarget) || setHead(null)}
                onKeyDown={press}
            >
                <div
                    role="row"
                    className="grid flex-none overflow-hidden px-14 font-text text-tiny leading-20 font-semibold text-soft [scrollbar-gutter:stable]"
                    data-part="live-head"
                    style={{ ...tracks, ...room }}
                    aria-rowindex={1}
                >
                    {heads.map((one, nth) => {
                        const sort = one.column.getIsSorted();
                        return (
                            <div
                                key={one.id}
                                id={`${id}-head-${nth}`}
                                role="columnheader"
                                className={clsx(
                                    one.column.columnDef.meta?.number && 'text-right',
                                    nth === head && 'outline-2 -outline-offset-1 outline-ink',
                                )}
                                aria-sort={sort ? SORTS[sort] : 'none'}
                            >
                                {one.column.getCanSort() ? (
                                    <button
                                        type="button"
                                        tabIndex={-1}
                                        className="cursor-pointer"
                                        onClick={one.column.getToggleSortingHandler()}
                                    >
                                        {flexRender(one.column.columnDef.header, one.getContext())}
                                        {sort && <span aria-hidden="true">{sort === 'asc' ? ' ↑' : ' ↓'}</span>}
                                    </button>
                                ) : (
                                    flexRender(one.column.columnDef.header, one.getContext())
                                )}
                            </div>
                        );
                    })}
                </div>
                <div
                    role={sorted.length > 0 ? 'rowgroup' : 'presentation'} // A layer of its own: scrolling it paints nothing else anew.
                    className="min-h-0 flex-1 overflow-y-auto bg-raised will-change-transform [scrollbar-gutter:stable]"
                    data-part="live-body"
                    style={room}
                    ref={scroller}
                    onPointerEnter={(event) => event.pointerType !== 'touch' && setPointed(true)}
                    onPointerLeave={() => setPointed(false)}
                    {...standing}
                >
                    {sorted.length === 0 && (
                        <p className="p-16 text-soft" role="presentation">
                            {empty}
                        </p>
                    )}
                    <div className="relative" data-part="live-room" role="presentation" style={{ height: virtual.getTotalSize() }}>
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
                                    className={clsx(
                                        'absolute inset-x-0 top-0 grid h-22 border-t border-shade px-14 contain-layout contain-size contain-style aria-selected:bg-shade',
                                        still.isGone(row.id) && 'opacity-40',
                                    )}
                                    inert={still.isGone(row.id)}
                                    data-part="live-row"
                                    style={{ ...tracks, transform: `translateY(${item.start}px)` }}
                                    onClick={() => setFocused(row.id)}
                                    onDoubleClick={() => onOpen?.(row.original)}
                                >
                                    {row.getVisibleCells().map((cell) => (
                                        <div
                                            key={cell.column.id}
                                            role="gridcell"
                                            // Figures that are drawn anew all the time fit, and are not measured for what to cut off.
                                            className={clsx(
                                                !recycles && 'not-has-[input]:truncate',
                                                cell.column.columnDef.meta?.number && 'text-right',
                                            )}
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
