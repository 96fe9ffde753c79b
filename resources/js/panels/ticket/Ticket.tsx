import { useEffect, useMemo, useRef, useState } from 'react';
import type { Account, Contract, Order } from '@/api/client';
import { place } from '@/commands/actions';
import { useGhostWords } from '@/commands/useGhost';
import { type Basis, bodyOf, type More, useBasis } from '@/model/basis';
import { chooseContract, useChoices } from '@/model/choices';
import { useKeyOf } from '@/model/keymap';
import { price as priceOf, writeExact, writePrice } from '@/model/prices';
import { useSettings } from '@/model/settings';
import { useTicket } from '@/model/ticketState';
import { useDesk } from '@/stream/store';
import { OrderButton } from '@/ui/OrderButton';

type Tif = Order['tif'];

const KINDS: [Order['kind'], string][] = [
    ['market', 'market'],
    ['limit', 'limit'],
    ['stop', 'stop'],
    ['stop-limit', 'stop-limit'],
    ['mit', 'MIT'],
];
const TIFS: [Tif, string][] = [
    ['day', 'day'],
    ['gtc', 'until cancelled (GTC)'],
    ['gtd', 'until a date (GTD)'],
    ['ioc', 'immediate or cancel (IOC)'],
    ['fok', 'fill or kill (FOK)'],
];
const RECENT = 'lotrik.recent-contracts';
const MAX_RECENT = 4;

const hasPrice = (kind: string): boolean => kind === 'limit' || kind === 'stop-limit';
const hasTrigger = (kind: string): boolean => kind === 'stop' || kind === 'stop-limit' || kind === 'mit';
/** For the exact order: every kind, duration and time, with what it costs and risks before it is sent. */
export function Ticket({ account, contract }: { account: Account; contract: Contract }) {
    const { open, taken } = useTicket();
    const key = useKeyOf('ticket');
    if (!open) return null;
    return (
        <OpenTicket
            key={contract.code}
            account={account}
            contract={contract}
            taken={taken?.code === contract.code ? taken.tick : null}
            closeKey={key}
        />
    );
}

function OpenTicket({
    account,
    contract,
    taken,
    closeKey,
}: {
    account: Account;
    contract: Contract;
    taken: number | null;
    closeKey: string;
}) {
    const bid = useDesk((desk) => desk.books[contract.code]?.bestBid ?? null);
    const ask = useDesk((desk) => desk.books[contract.code]?.bestAsk ?? null);
    const last = useDesk((desk) => desk.books[contract.code]?.last?.price ?? null);
    const sequence = useDesk((desk) => desk.positions[contract.code]?.sequence ?? 0);
    const plans = useChoices((choices) => choices.plans);
    const chosenPlan = useChoices((choices) => choices.plan);
    const chosenLots = useChoices((choices) => choices.lots);
    const own = useSettings((settings) => settings.entry.contracts[contract.code]);
    const contracts = useChoices((choices) => choices.contracts);
    const working = useDesk((desk) => desk.orders);
    const [side, setSide] = useState<Order['side']>('buy');
    const [kind, setKind] = useState<Order['kind']>(own?.kind ?? 'limit');
    const [lots, setLots] = useState(String(chosenLots));
    const [level, setLevel] = useState(() => firstPrice(contract));
    const [trigger, setTrigger] = useState(() => firstPrice(contract));
    const [tif, setTif] = useState<Tif>(own?.tif ?? 'day');
    const [expires, setExpires] = useState('');
    const [release, setRelease] = useState('');
    const [cancelAt, setCancelAt] = useState('');
    const [plan, setPlan] = useState<number | null>(chosenPlan);
    const [when, setWhen] = useState<{ contract: string; last: 'at-or-above' | 'at-or-below'; price: string }>({
        contract: contract.code,
        last: 'at-or-above',
        price: '',
    });
    const [after, setAfter] = useState<number | null>(null);

    const take = (tick: number | null) => {
        if (tick === null) return;
        const text = priceOf(contract, tick);
        if (hasTrigger(kind)) setTrigger(text);
        else setLevel(text);
    };
    // A rung's price that was clicked while the ticket is open.
    // biome-ignore lint/correctness/useExhaustiveDependencies: only a new click takes a price
    useEffect(() => take(taken), [taken]);

    const more = useMemo<More>(
        () => ({
            ...(tif !== 'day' && { tif }),
            ...(tif === 'gtd' && { expires_at: expires }),
            ...(release !== '' && { release_at: release }),
            ...(cancelAt !== '' && { cancel_at: cancelAt }),
            ...(when.price !== '' && { condition: when }),
            ...(after !== null && { after }),
        }),
        [tif, expires, release, cancelAt, when, after],
    );
    const chosen = useBasis(contract.code);
    const basis: Basis = { account: account.id, contract: contract.code, tag: chosen.tag, lots: Number(lots), plan };
    const placement = {
        side,
        kind,
        ...(hasPrice(kind) && { price: level }),
        ...(hasTrigger(kind) && { trigger }),
    };
    const body = bodyOf(placement, basis, more);
    const words = useGhostWords(body, String(sequence));
    const ready = words !== null && !words.refused;
    const isSending = useRef(false);

    const submit = async () => {
        if (!ready || isSending.current) return;
        // Enter may be held, or pressed again while the answer is under way.
        isSending.current = true;
        const sent = await place(body).finally(() => {
            isSending.current = false;
        });
        if (sent) useTicket.setState({ open: false, taken: null });
    };
    const nudge = (by: number) => {
        if (words?.tick != null) take(words.tick + by);
    };

    return (
        <form
            className="ticket"
            aria-label="Ticket"
            data-field="ticket"
            onSubmit={(event) => {
                event.preventDefault();
                void submit();
            }}
            onKeyDown={(event) => {
                if (event.key !== 'Escape') return;
                event.stopPropagation();
                useTicket.setState({ open: false, taken: null });
            }}
        >
            <header>
                <b>Ticket</b>
                <button type="button" onClick={() => useTicket.setState({ open: false, taken: null })}>
                    close <kbd>{closeKey}</kbd>
                </button>
            </header>
            <ContractField contract={contract} />
            <div className="fields">
                <label>
                    Side
                    <select value={side} onChange={(event) => setSide(event.target.value as Order['side'])} data-name="side">
                        <option value="buy">Buy</option>
                        <option value="sell">Sell</option>
                    </select>
                </label>
                <label>
                    Lots
                    <input
                        type="number"
                        min={1}
                        max={account.order_limit}
                        value={lots}
                        onChange={(event) => setLots(event.target.value)}
                        data-name="lots"
                    />
                </label>
                <label>
                    Kind
                    <select value={kind} onChange={(event) => setKind(event.target.value as Order['kind'])} data-name="kind">
                        {KINDS.map(([value, text]) => (
                            <option key={value} value={value}>
                                {text}
                            </option>
                        ))}
                    </select>
                </label>
                <label>
                    Duration
                    <select value={tif} onChange={(event) => setTif(event.target.value as Tif)} data-name="tif">
                        {TIFS.map(([value, text]) => (
                            <option key={value} value={value}>
                                {text}
                            </option>
                        ))}
                    </select>
                </label>
                {hasTrigger(kind) && (
                    <label>
                        Trigger
                        <input
                            type="text"
                            inputMode="decimal"
                            value={trigger}
                            onChange={(event) => setTrigger(event.target.value)}
                            data-name="trigger"
                        />
                    </label>
                )}
                {hasPrice(kind) && (
                    <label>
                        Limit
                        <input
                            type="text"
                            inputMode="decimal"
                            value={level}
                            onChange={(event) => setLevel(event.target.value)}
                            data-name="price"
                        />
                    </label>
                )}
                {kind !== 'market' && (
                    <div className="takes" title="Or click a price on the ladder">
                        <button type="button" disabled={bid === null} onClick={() => take(bid)}>
                            bid {bid === null ? '' : writePrice(contract, bid)}
                        </button>
                        <button type="button" disabled={ask === null} onClick={() => take(ask)}>
                            ask {ask === null ? '' : writePrice(contract, ask)}
                        </button>
                        <button type="button" disabled={last === null} onClick={() => take(last)}>
                            last {last === null ? '' : writePrice(contract, last)}
                        </button>
                        <button type="button" onClick={() => nudge(-1)}>
                            −1
                        </button>
                        <button type="button" onClick={() => nudge(1)}>
                            +1
                        </button>
                    </div>
                )}
                {tif === 'gtd' && <TimeField label="Until (UTC)" value={expires} set={setExpires} name="expires" />}
                <TimeField label="Release at (UTC)" value={release} set={setRelease} name="release" />
                <TimeField label="Cancel at (UTC)" value={cancelAt} set={setCancelAt} name="cancel" />
                <div className="whole condition">
                    <label>
                        Only if last of
                        <select
                            value={when.contract}
                            onChange={(event) => setWhen({ ...when, contract: event.target.value })}
                            data-name="condition-contract"
                        >
                            {contracts.map((candidate) => (
                                <option key={candidate.code}>{candidate.code}</option>
                            ))}
                        </select>
                    </label>
                    <label>
                        is
                        <select value={when.last} onChange={(event) => setWhen({ ...when, last: event.target.value as typeof when.last })}>
                            <option value="at-or-above">at or above</option>
                            <option value="at-or-below">at or below</option>
                        </select>
                    </label>
                    <label>
                        this
                        <input
                            type="text"
                            inputMode="decimal"
                            placeholder="any price"
                            value={when.price}
                            onChange={(event) => setWhen({ ...when, price: event.target.value })}
                            data-name="condition"
                        />
                    </label>
                </div>
                <label className="whole">
                    Only after a fill of
                    <select value={after ?? 0} onChange={(event) => setAfter(Number(event.target.value) || null)} data-name="after">
                        <option value={0}>no other order</option>
                        {[...working.values()]
                            .filter((order) => order.role === 'entry' || order.role === 'close')
                            .map((order) => (
                                <option key={order.id} value={order.id}>
                                    {order.id}: {order.side} {order.leaves} {order.kind} {order.contract}
                                </option>
                            ))}
                    </select>
                </label>
                <label className="whole">
                    Exit plan
                    <select value={plan ?? 0} onChange={(event) => setPlan(Number(event.target.value) || null)} data-name="plan">
                        {plans.map((candidate) => (
                            <option key={candidate.id} value={candidate.id}>
                                {candidate.document.name}
                            </option>
                        ))}
                        <option value={0}>No plan</option>
                    </select>
                </label>
            </div>
            <p className={words?.refused ? 'ticket-words refused' : 'ticket-words'} aria-live="polite" data-field="ticket-words">
                {words?.words ?? ' '}
            </p>
            <dl>
                <dt>Split</dt>
                <dd>{words?.split || '—'}</dd>
                <dt>Money at the stops</dt>
                <dd data-field="ticket-stop">{money(words?.exits, 'stop', contract)}</dd>
                <dt>Money at the targets</dt>
                <dd>{money(words?.exits, 'target', contract)}</dd>
                <dt>Margin</dt>
                <dd>{words?.margin ? `${writeExact(words.margin, contract.minor_unit, false)} ${contract.currency}` : '—'}</dd>
                <dt>Fees, both ways</dt>
                <dd>{words?.fees ? `${writeExact(words.fees, contract.minor_unit, false)} ${contract.currency}` : '—'}</dd>
            </dl>
            <button type="submit" className="order-button strong" disabled={!ready} data-action="ticket-send">
                Send <kbd>Enter</kbd>
            </button>
        </form>
    );
}

const money = (exits: { role: string; lots: number; money: string }[] | undefined, role: string, contract: Contract): string =>
    exits
        ?.filter((exit) => exit.role === role)
        .map((exit) => `${exit.lots}: ${writeExact(exit.money, contract.minor_unit)}`)
        .join(' · ') || '—';

/** Where the ticket begins: at the last price. */
function firstPrice(contract: Contract): string {
    const last = useDesk.getState().books[contract.code]?.last?.price;
    return last === undefined ? '' : priceOf(contract, last);
}

function TimeField({ label, value, set, name }: { label: string; value: string; set: (value: string) => void; name: string }) {
    return (
        <label>
            {label}
            <input
                type="text"
                placeholder="14:30 or 14:30:00"
                value={value}
                onChange={(event) => set(event.target.value.trim())}
                data-name={name}
            />
        </label>
    );
}

/** Typing a code, a name or an alias finds the contract; those used last come first. */
function ContractField({ contract }: { contract: Contract }) {
    const contracts = useChoices((choices) => choices.contracts);
    const [typed, setTyped] = useState('');
    const recent: string[] = JSON.parse(localStorage.getItem(RECENT) ?? '[]');
    useEffect(() => {
        const kept: string[] = JSON.parse(localStorage.getItem(RECENT) ?? '[]');
        localStorage.setItem(
            RECENT,
            JSON.stringify([contract.code, ...kept.filter((code) => code !== contract.code)].slice(0, MAX_RECENT)),
        );
    }, [contract.code]);
    const sought = typed.trim().toLowerCase();
    const found =
        sought === ''
            ? contracts.filter((candidate) => recent.includes(candidate.code) && candidate.code !== contract.code)
            : contracts.filter((candidate) =>
                  [candidate.code, candidate.name ?? '', ...(candidate.aliases ?? [])].some((text) => text.toLowerCase().includes(sought)),
              );
    const pick = (code: string) => {
        setTyped('');
        chooseContract(code);
    };
    return (
        <div className="contract-field">
            <label>
                Contract
                <input
                    type="text"
                    value={typed}
                    placeholder={`${contract.code} · ${contract.name}`}
                    onChange={(event) => setTyped(event.target.value)}
                    onKeyDown={(event) => {
                        if (event.key !== 'Enter') return;
                        event.preventDefault();
                        if (found[0] && sought !== '') pick(found[0].code);
                    }}
                    data-name="contract"
                />
            </label>
            <div className="takes">
                {found.slice(0, MAX_RECENT).map((candidate) => (
                    <button key={candidate.code} type="button" title={candidate.name ?? ''} onClick={() => pick(candidate.code)}>
                        {candidate.code}
                    </button>
                ))}
                {sought !== '' && found.length === 0 && <small>No contract has that code, name or alias.</small>}
            </div>
        </div>
    );
}

/** Opens the ticket by pointer. */
export function TicketButton() {
    return (
        <OrderButton
            tone="small"
            label="Ticket"
            keyName={useKeyOf('ticket')}
            act={() => useTicket.setState(({ open }) => ({ open: !open }))}
            name="ticket"
        />
    );
}
