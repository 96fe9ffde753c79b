import type { ColumnDef } from '@tanstack/react-table';
import { useMemo, useState } from 'react';
import type { Contract, Order } from '@/api/client';
import { arm, pressQuote, useArmed } from '@/commands/armedRows';
import { useButtonsSend } from '@/commands/openByButton';
import { useRelease } from '@/commands/useRelease';
import { useBasis } from '@/model/basis';
import { chooseContract, useChoices } from '@/model/choices';
import { writeExact, writePrice } from '@/model/prices';
import { deskNow } from '@/stream/store';
import { Figure } from '@/ui/Figure';
import { FIELD } from '@/ui/looks';
import { useEvery } from '@/ui/useEvery';
import { LiveTable } from './LiveTable';
import { WORDS } from './words';

const ARMED = [
    'cursor-pointer rounded-chip border border-rule px-5 leading-17 underline',
    'aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-raised',
].join(' ');

interface Row {
    contract: Contract;
    bid: number | null;
    bidLots: number;
    ask: number | null;
    askLots: number;
    last: number | null;
    /** ticks since the settlement, or since the day's first trade */
    change: number | null;
    since: string;
    lots: number;
    position: number;
    open: string | null;
}

const price = (level: (row: Row) => number | null): ColumnDef<Row>['cell'] =>
    function Price({ row: { original: row } }) {
        const tick = level(row);
        return tick === null ? '—' : writePrice(row.contract, tick);
    };

/** The bid sells, the ask buys, where the row is armed and the press is let go there; the price is the one that was pressed. */
const quote = (side: Order['side'], level: (row: Row) => number | null): ColumnDef<Row>['cell'] =>
    function Quote({ row: { original: row } }) {
        const armed = useArmed((state) => state.codes.includes(row.contract.code));
        const basis = useBasis(row.contract.code);
        const release = useRelease();
        const tick = level(row);
        if (tick === null) return '—';
        const text = writePrice(row.contract, tick);
        if (!armed) return text;
        return (
            <button
                type="button"
                tabIndex={-1}
                className={ARMED}
                data-quote={side}
                onPointerDown={(event) => {
                    const at = event.timeStamp;
                    if (event.button === 0) release.press(event, side, () => pressQuote(row.contract, basis, side, tick, at));
                }}
                onPointerUp={(event) => release.letGo(event, side)}
            >
                {side} {text}
            </button>
        );
    };

function Arm({ code }: { code: string }) {
    const armed = useArmed((state) => state.codes.includes(code));
    const { lots, plan } = useBasis(code);
    const sends = useButtonsSend();
    const name = useChoices((choices) => choices.plans.find((one) => one.id === plan)?.document.name ?? 'no plan');
    return (
        <button type="button" tabIndex={-1} className={ARMED} aria-pressed={armed} onClick={() => arm(code, !armed)} data-arm={code}>
            {armed ? `${lots} · ${name}${sends ? '' : ' · draft'}` : 'arm'}
        </button>
    );
}

const columns: ColumnDef<Row>[] = [
    { id: 'code', header: 'Contract', accessorFn: (row) => row.contract.code, meta: { width: '76px' } },
    {
        id: 'arm',
        header: 'Orders',
        enableSorting: false,
        cell: ({ row }) => <Arm code={row.original.contract.code} />,
        meta: { width: '174px' },
    },
    { id: 'bid-lots', header: 'Lots', accessorKey: 'bidLots', meta: { width: '40px', number: true } },
    { id: 'bid', header: 'Bid', accessorKey: 'bid', cell: quote('sell', (row) => row.bid), meta: { width: '92px', number: true } },
    { id: 'ask', header: 'Ask', accessorKey: 'ask', cell: quote('buy', (row) => row.ask), meta: { width: '92px', number: true } },
    { id: 'ask-lots', header: 'Lots', accessorKey: 'askLots', meta: { width: '40px', number: true } },
    { id: 'last', header: 'Last', accessorKey: 'last', cell: price((row) => row.last), meta: { width: '68px', number: true } },
    {
        id: 'change',
        header: 'Change',
        accessorKey: 'change',
        cell: ({ row: { original: row } }) => (
            <span className={(row.change ?? 0) < 0 ? 'text-loss' : 'text-gain'} title={row.since}>
                {row.change === null
                    ? '—'
                    : `${row.change > 0 ? '+' : row.change < 0 ? '−' : ''}${writePrice(row.contract, Math.abs(row.change))}`}
            </span>
        ),
        meta: { width: '68px', number: true },
    },
    { id: 'volume', header: 'Volume', accessorKey: 'lots', meta: { width: '60px', number: true } },
    {
        id: 'position',
        header: 'Position',
        accessorKey: 'position',
        cell: ({ row }) =>
            row.original.position === 0
                ? ''
                : row.original.position > 0
                  ? `long ${row.original.position}`
                  : `short ${-row.original.position}`,
        meta: { width: '64px', number: true },
    },
    {
        id: 'open',
        header: 'Open P/L',
        accessorFn: (row) => Number(row.open ?? 0),
        cell: ({ row: { original: row } }) =>
            row.open === null ? (
                ''
            ) : (
                <Figure money={row.open} className="font-normal">
                    {writeExact(row.open, row.contract.minor_unit)}
                </Figure>
            ),
        meta: { width: '92px', number: true },
    },
    { id: 'name', header: 'Name', accessorFn: (row) => row.contract.name, meta: { width: 'minmax(84px, 1fr)' } },
];

/** All contracts with their markets; Enter or a double click puts one on the ladder, A arms it. Found by code or name; months of a root stand together. */
export function ContractList() {
    const contracts = useChoices((choices) => choices.contracts);
    const moment = useEvery(200);
    const [wanted, setWanted] = useState('');
    // biome-ignore lint/correctness/useExhaustiveDependencies: the market is looked at five times a second
    const rows = useMemo(() => {
        const { books, days, positions } = deskNow();
        const words = wanted.trim().toLowerCase();
        return contracts
            .filter((contract) => `${contract.code} ${contract.name}`.toLowerCase().includes(words))
            .sort((a, b) => a.root.localeCompare(b.root))
            .map((contract): Row => {
                const book = books[contract.code];
                const day = days[contract.code];
                const position = positions[contract.code];
                const last = book?.last?.price ?? null;
                const held = position !== undefined && position.quantity !== 0;
                return {
                    contract,
                    bid: book?.bestBid ?? null,
                    bidLots: book?.bids.get(book.bestBid ?? 0)?.[0] ?? 0,
                    ask: book?.bestAsk ?? null,
                    askLots: book?.asks.get(book.bestAsk ?? 0)?.[0] ?? 0,
                    last,
                    change: last === null || day?.reference == null ? null : last - day.reference,
                    since: day?.settlement == null ? WORDS.sinceFirstTrade : 'since the settlement',
                    lots: day?.lots ?? 0,
                    position: position?.quantity ?? 0,
                    open: held ? position.open_money : null,
                };
            });
    }, [contracts, moment, wanted]);
    return (
        <div className="grid h-full grid-cols-[150px_minmax(0,1fr)] grid-rows-[minmax(0,1fr)]" data-part="contract-list">
            <input
                className={`${FIELD} mt-6 ml-14 h-26 w-136`}
                type="search"
                aria-label="Find a contract"
                placeholder="find a contract"
                value={wanted}
                onChange={(event) => setWanted(event.target.value)}
            />
            <LiveTable
                label="Contracts"
                columns={columns}
                rows={rows}
                idOf={(row) => row.contract.code}
                empty={WORDS.noSuchContract}
                onKey={(row, key) => {
                    if (key === 'Enter') chooseContract(row.contract.code);
                    else if (key === 'a') arm(row.contract.code, !useArmed.getState().codes.includes(row.contract.code));
                    else return false;
                    return true;
                }}
                onOpen={(row) => chooseContract(row.contract.code)}
            />
        </div>
    );
}
