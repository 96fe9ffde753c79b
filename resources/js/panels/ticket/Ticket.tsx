import clsx from 'clsx';
import { useEffect, useRef } from 'react';
import { useForm } from 'react-hook-form';
import type { Account, Contract, Order } from '@/api/client';
import { place } from '@/commands/actions';
import { useGhostWords } from '@/commands/useGhost';
import { type Basis, bodyOf, type More, useBasis } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { useKeyOf } from '@/model/keymap';
import { useMoment } from '@/model/moments';
import { price as priceOf, writeExact, writePrice } from '@/model/prices';
import { useSettings } from '@/model/settings';
import { useTicket } from '@/model/ticketState';
import { typedNumber } from '@/model/typedNumber';
import { AccountMark } from '@/panels/top/AccountMark';
import { deskNow, useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { FIELD } from '@/ui/looks';
import { Select } from '@/ui/Select';
import { TextField } from '@/ui/TextField';
import { ContractField } from './ContractField';
import { LABEL } from './looks';
import { TimeField } from './TimeField';
import { WORDS } from './words';

const KINDS: [Order['kind'], string][] = [
    ['market', 'market'],
    ['limit', 'limit'],
    ['stop', 'stop'],
    ['stop-limit', 'stop-limit'],
    ['mit', 'MIT'],
];
const TIFS: [Order['tif'], string][] = [
    ['day', 'day'],
    ['gtc', 'until cancelled (GTC)'],
    ['gtd', 'until a date (GTD)'],
    ['ioc', 'immediate or cancel (IOC)'],
    ['fok', 'fill or kill (FOK)'],
];
const DD = 'text-right font-mono text-tiny whitespace-nowrap';

/** In place of a plan or an order where there is none: what a list gives is text. */
const NONE = '0';
const MOMENT = { setValueAs: (text: string) => text.trim() };

interface Fields {
    side: Order['side'];
    kind: Order['kind'];
    /** as it was typed; PHP says what it makes of it */
    lots: string;
    price: string;
    trigger: string;
    tif: Order['tif'];
    expires: string;
    release: string;
    cancel: string;
    plan: string;
    condition: { contract: string; last: 'at-or-above' | 'at-or-below'; price: string };
    after: string;
}

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
    const { register, setValue, watch } = useForm<Fields>({
        defaultValues: {
            side: 'buy',
            kind: own?.kind ?? 'limit',
            lots: String(chosenLots),
            price: firstPrice(contract),
            trigger: firstPrice(contract),
            tif: own?.tif ?? 'day',
            expires: '',
            release: '',
            cancel: '',
            plan: String(chosenPlan ?? NONE),
            condition: { contract: contract.code, last: 'at-or-above', price: '' },
            after: NONE,
        },
    });
    const fields = watch();
    const { side, kind, tif } = fields;

    const take = (tick: number | null) => {
        if (tick === null) return;
        setValue(hasTrigger(kind) ? 'trigger' : 'price', priceOf(contract, tick));
    };
    // A rung's price that was clicked while the ticket is open.
    // biome-ignore lint/correctness/useExhaustiveDependencies: only a new click takes a price
    useEffect(() => take(taken), [taken]);

    const expires = useMoment(fields.expires, contract.code);
    const release = useMoment(fields.release, contract.code);
    const cancels = useMoment(fields.cancel, contract.code);
    const more: More = {
        ...(tif !== 'day' && { tif }),
        ...(tif === 'gtd' && { expires_at: expires.iso }),
        ...(release.iso !== '' && { release_at: release.iso }),
        ...(cancels.iso !== '' && { cancel_at: cancels.iso }),
        ...(fields.condition.price !== '' && { condition: { ...fields.condition, price: typedNumber(fields.condition.price) } }),
        ...(fields.after !== NONE && { after: Number(fields.after) }),
    };
    const chosen = useBasis(contract.code);
    const basis: Basis = {
        account: account.id,
        contract: contract.code,
        tag: chosen.tag,
        lots: Number(fields.lots),
        plan: Number(fields.plan) || null,
    };
    const placement = {
        side,
        kind,
        ...(hasPrice(kind) && { price: typedNumber(fields.price) }),
        ...(hasTrigger(kind) && { trigger: typedNumber(fields.trigger) }),
    };
    const body = bodyOf(placement, basis, more);
    // What cannot be read is said beside its field; nobody needs to be asked about it.
    const isRead = [expires, release, cancels].every((moment) => moment.words !== null);
    const words = useGhostWords(isRead ? body : null, String(sequence));
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
            className="absolute top-52 left-8 z-sheet flex max-h-[calc(100vh-var(--lists)-58px)] w-316 flex-col gap-4 overflow-y-auto rounded-sheet border-2 border-ink bg-raised px-12 py-8 text-small"
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
            <header className="flex justify-between text-body">
                <b>Ticket</b>
                <AccountMark />
                <Button tone="text" onClick={() => useTicket.setState({ open: false, taken: null })}>
                    close <kbd>{closeKey}</kbd>
                </Button>
            </header>
            <ContractField contract={contract} />
            <div className="grid grid-cols-2 gap-x-8 gap-y-4">
                <label className={LABEL}>
                    Side
                    <Select {...register('side')} data-name="side">
                        <option value="buy">Buy</option>
                        <option value="sell">Sell</option>
                    </Select>
                </label>
                <label className={LABEL}>
                    Lots
                    <input className={FIELD} type="number" min={1} max={account.order_limit} {...register('lots')} data-name="lots" />
                </label>
                <label className={LABEL}>
                    Kind
                    <Select {...register('kind')} data-name="kind">
                        {KINDS.map(([value, text]) => (
                            <option key={value} value={value}>
                                {text}
                            </option>
                        ))}
                    </Select>
                </label>
                <label className={LABEL}>
                    Duration
                    <Select {...register('tif')} data-name="tif">
                        {TIFS.map(([value, text]) => (
                            <option key={value} value={value}>
                                {text}
                            </option>
                        ))}
                    </Select>
                </label>
                {hasTrigger(kind) && (
                    <label className={LABEL}>
                        Trigger
                        <TextField inputMode="decimal" {...register('trigger')} data-name="trigger" />
                    </label>
                )}
                {hasPrice(kind) && (
                    <label className={LABEL}>
                        Limit
                        <TextField inputMode="decimal" {...register('price')} data-name="price" />
                    </label>
                )}
                {kind !== 'market' && (
                    <div className="col-span-full flex flex-wrap items-center gap-4" title={WORDS.orClickPrice}>
                        <Button tone="choice" disabled={bid === null} onClick={() => take(bid)}>
                            bid {bid === null ? '' : writePrice(contract, bid)}
                        </Button>
                        <Button tone="choice" disabled={ask === null} onClick={() => take(ask)}>
                            ask {ask === null ? '' : writePrice(contract, ask)}
                        </Button>
                        <Button tone="choice" disabled={last === null} onClick={() => take(last)}>
                            last {last === null ? '' : writePrice(contract, last)}
                        </Button>
                        <Button tone="choice" onClick={() => nudge(-1)}>
                            −1
                        </Button>
                        <Button tone="choice" onClick={() => nudge(1)}>
                            +1
                        </Button>
                    </div>
                )}
                {tif === 'gtd' && (
                    <TimeField label="Until" means={expires} pick={(at) => setValue('expires', at)} {...register('expires', MOMENT)} />
                )}
                <TimeField label="Release at" means={release} pick={(at) => setValue('release', at)} {...register('release', MOMENT)} />
                <TimeField label="Cancel at" means={cancels} pick={(at) => setValue('cancel', at)} {...register('cancel', MOMENT)} />
                <div className="col-span-full grid grid-cols-[1fr_1fr_84px] gap-8">
                    <label className={LABEL}>
                        Only if last of
                        <Select {...register('condition.contract')} data-name="condition-contract">
                            {contracts.map((candidate) => (
                                <option key={candidate.code}>{candidate.code}</option>
                            ))}
                        </Select>
                    </label>
                    <label className={LABEL}>
                        is
                        <Select {...register('condition.last')}>
                            <option value="at-or-above">at or above</option>
                            <option value="at-or-below">at or below</option>
                        </Select>
                    </label>
                    <label className={LABEL}>
                        this
                        <TextField inputMode="decimal" placeholder="any price" {...register('condition.price')} data-name="condition" />
                    </label>
                </div>
                <label className={`${LABEL} col-span-full`}>
                    {WORDS.onlyAfterFill}
                    <Select {...register('after')} data-name="after">
                        <option value={NONE}>no other order</option>
                        {[...working.values()]
                            .filter((order) => order.role === 'entry' || order.role === 'close')
                            .map((order) => (
                                <option key={order.id} value={order.id}>
                                    {order.id}: {order.side} {order.leaves} {order.kind} {order.contract}
                                </option>
                            ))}
                    </Select>
                </label>
                <label className={`${LABEL} col-span-full`}>
                    Exit plan
                    <Select {...register('plan')} data-name="plan">
                        {plans.map((candidate) => (
                            <option key={candidate.id} value={candidate.id}>
                                {candidate.document.name}
                            </option>
                        ))}
                        <option value={NONE}>No plan</option>
                    </Select>
                </label>
            </div>
            <p
                className={clsx('min-h-32 font-semibold', words?.refused && 'bg-amber px-6 py-2 text-on-amber')}
                aria-live="polite"
                data-field="ticket-words"
                data-refused={words?.refused || undefined}
            >
                {words?.words ?? ' '}
            </p>
            <dl className="grid grid-cols-[auto_1fr] gap-x-8">
                <dt>Split</dt>
                <dd className={DD}>{words?.split || '—'}</dd>
                <dt>Money at the stops</dt>
                <dd className={DD} data-field="ticket-stop">
                    {money(words?.exits, 'stop', contract)}
                </dd>
                <dt>Money at the targets</dt>
                <dd className={DD}>{money(words?.exits, 'target', contract)}</dd>
                <dt>Margin</dt>
                <dd className={DD}>
                    {words?.margin ? `${writeExact(words.margin, contract.minor_unit, false)} ${contract.currency}` : '—'}
                </dd>
                <dt>Fees, both ways</dt>
                <dd className={DD}>{words?.fees ? `${writeExact(words.fees, contract.minor_unit, false)} ${contract.currency}` : '—'}</dd>
            </dl>
            <Button tone="strong" type="submit" disabled={!ready} data-action="ticket-send">
                Send <kbd>Enter</kbd>
            </Button>
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
    const last = deskNow().books[contract.code]?.last?.price;
    return last === undefined ? '' : priceOf(contract, last);
}
