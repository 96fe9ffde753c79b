import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { type FieldPath, type UseFormReturn, useFieldArray, useForm } from 'react-hook-form';
import { change } from '@/api/change';
import { type Account, call, type Limits, type LimitsDocument } from '@/api/client';
import { queries } from '@/api/queries';
import { useChoices } from '@/model/choices';
import { Button } from '@/ui/Button';
import { Fault } from '@/ui/Fault';
import { FileRow } from '@/ui/FileRow';
import { Group } from '@/ui/Group';
import { ask } from '@/ui/question';
import { Select } from '@/ui/Select';
import { TextField } from '@/ui/TextField';
import { type ContractFields, isEmpty, type LimitsFields, limitsDocument, limitsFields, ON_A_DATE } from './limitsForm';
import { Page } from './Page';
import { WORDS } from './words';

type Form = UseFormReturn<LimitsFields>;

const DAYS: [days: string, words: string][] = [
    ['1,2,3,4,5', 'Mon to Fri'],
    ['1,2,3,4,5,6,7', 'every day'],
    ['1', 'Mon'],
    ['2', 'Tue'],
    ['3', 'Wed'],
    ['4', 'Thu'],
    ['5', 'Fri'],
    ['6', 'Sat'],
    ['7', 'Sun'],
    [ON_A_DATE, 'on'],
];

const LIMITS = 'limits';

/** What the account that is shown allows its trader. PHP reads it, and says what is wrong with it. */
export function LimitsPage() {
    const account = useChoices((choices) => choices.account);
    const { data, error } = useQuery({
        queryKey: [LIMITS, account?.id],
        queryFn: () => call<Limits>('GET', `accounts/${account?.id}/limits`),
        enabled: account !== null,
    });
    if (!account || !data)
        return (
            <Page name="limits">
                <p className="text-soft">{error ? error.message : 'The limits are opening…'}</p>
            </Page>
        );
    return <LimitsSet key={account.id} account={account} limits={data} />;
}

function LimitsSet({ account, limits }: { account: Account; limits: Limits }) {
    // What was asked for last: where some of it waits for the next day, that is said.
    const wished = limits.next ?? limits.now;
    // What is typed while an answer is under way is not overwritten by it.
    const form = useForm<LimitsFields>({ values: limitsFields(wished), resetOptions: { keepDirtyValues: true } });
    const [fault, setFault] = useState('');
    const send = (document: unknown): Promise<string> =>
        change(LIMITS, async () =>
            queries.setQueryData([LIMITS, account.id], await call<Limits>('PUT', `accounts/${account.id}/limits`, document)),
        );
    const { code } = useChoices.getState();
    return (
        <Page name="limits">
            <Used limits={limits} lift={() => askToLift(account, setFault)} />
            <form
                className="flex flex-col gap-8"
                aria-label={WORDS.limitsOf(account.name)}
                onSubmit={form.handleSubmit(async (fields) => setFault(await send(limitsDocument(fields))))}
            >
                <p className="sticky top-0 z-line flex items-center gap-10 bg-raised py-4">
                    <Button type="submit" data-name="save-limits" disabled={!form.formState.isDirty || form.formState.isSubmitting}>
                        Set limits
                    </Button>
                    <span className="text-soft">{WORDS.tightensAtOnce(moment(limits.day_ends))}</span>
                    <span className="flex-1" />
                    <FileRow
                        what="limits"
                        name="limits"
                        document={wished}
                        take={async (document) => {
                            const refused = await send(document);
                            if (refused === '') form.reset(undefined, { keepDirtyValues: false });
                            return refused;
                        }}
                    />
                </p>
                <Fault words={fault} name="limits-fault" />
                {limits.next && <Waiting now={limits.now} next={limits.next} from={limits.from ?? ''} currency={account.currency} />}
                <Group legend="The day" className="grid grid-cols-[1fr_1fr] gap-x-16 gap-y-4">
                    <Line form={form} name="daily_loss" label="Daily loss" unit={account.currency} />
                    <Line form={form} name="drawdown_open" label="Drawdown from the day's best" unit={account.currency} />
                    <Line form={form} name="drawdown_closed" label="Drawdown from closed profit" unit={account.currency} />
                    <Pair label="Keep">
                        <Typed form={form} name="keep_percent" label="Share of the best profit to keep, percent" narrow /> % of the profit
                        once up <Typed form={form} name="keep_from" label="Profit from which on a share is kept" /> {account.currency}
                    </Pair>
                    <Pair label="It begins at">
                        <Typed form={form} name="rolls" label="Time at which the day begins" narrow /> in{' '}
                        <Typed form={form} name="zone" label="Time zone of the day" />
                    </Pair>
                    <span className="text-soft">{WORDS.dayEnds(moment(limits.day_ends))}</span>
                </Group>
                <Group legend="New entries" className="grid grid-cols-[1fr_1fr] gap-x-16 gap-y-4">
                    <Line form={form} name="orders_a_minute" label="Entries a minute" />
                    <Line form={form} name="losses_in_a_row" label="Losing trades in a row" />
                    <Pair label="After a loss of">
                        <Typed form={form} name="pause_loss" label="Loss of a trade after which you pause" /> {account.currency} pause{' '}
                        <Typed form={form} name="pause_minutes" label="Minutes of the pause" narrow /> minutes
                    </Pair>
                    <Pair label="Flat">
                        <Typed form={form} name="flatten_before_close" label={WORDS.flattenBeforeClose} narrow /> minutes before a close
                    </Pair>
                    <Windows form={form} zone={wished.day?.zone ?? 'UTC'} />
                </Group>
                <InContract form={form} at="each" legend="In every contract" currency={account.currency} />
                <OneContract form={form} first={code} currency={account.currency} />
            </form>
        </Page>
    );
}

/** Enter at the dialog keeps it: what a limit has stopped is not lifted by a key that was meant for the ladder. */
function askToLift(account: Account, setFault: (words: string) => void): void {
    ask({
        title: 'Lift it?',
        words: WORDS.liftQuestion(account.name),
        safe: 'Keep it',
        answers: [
            {
                label: 'Lift it',
                name: 'lift-it',
                act: () =>
                    void change(LIMITS, async () =>
                        queries.setQueryData([LIMITS, account.id], await call<Limits>('POST', `accounts/${account.id}/lift`, {})),
                    ).then(setFault),
            },
        ],
    });
}

const moment = (iso: string): string => `${iso.slice(0, 10)} ${iso.slice(11, 16)} UTC`;

/** How much of each limit of the day is used up, and what holds the account back now. */
function Used({ limits, lift }: { limits: Limits; lift: () => void }) {
    return (
        <div className="flex flex-col gap-3" data-part="limits-used">
            {limits.barred_until && (
                <p className="bg-amber px-6 py-2 font-bold text-on-amber">
                    {WORDS.barredFor(limits.barred_for ?? '', moment(limits.barred_until))}
                </p>
            )}
            {limits.stopped_until && (
                <p className="bg-amber px-6 py-2 font-bold text-on-amber">
                    {WORDS.stoppedFor(limits.stopped_because ?? '', moment(limits.stopped_until))}
                </p>
            )}
            {limits.uses.map((use) => (
                <p key={use.limit} className="grid grid-cols-[1fr_2fr_1fr] items-center gap-10">
                    <span className="first-letter:uppercase">{use.limit}</span>
                    <span className="h-8 border border-rule bg-paper" aria-hidden="true">
                        <i className="block h-full bg-loss" style={{ width: `${Math.min(100, use.percent)}%` }} />
                    </span>
                    <span className="font-mono text-small">{WORDS.usedOf(use.used, use.of, limits.currency, use.percent)}</span>
                </p>
            ))}
            {limits.losses_in_a_row > 0 && <p>{WORDS.lossesInARow(limits.losses_in_a_row)}</p>}
            {(limits.barred_until || limits.stopped_until || limits.losses_in_a_row > 0) && (
                <p className="flex items-center gap-10">
                    <Button onClick={lift} data-name="lift">
                        Lift
                    </Button>
                    <span className="text-soft">{WORDS.liftMeans}</span>
                </p>
            )}
        </div>
    );
}

/** What is looser in the limits to come, and as it is now. */
function Waiting({ now, next, from, currency }: { now: LimitsDocument; next: LimitsDocument; from: string; currency: string }) {
    const differs = Object.keys(next).filter(
        (field) => JSON.stringify(next[field as keyof LimitsDocument]) !== JSON.stringify(now[field as keyof LimitsDocument]),
    );
    return (
        <p className="border-l-4 border-ink pl-8" data-part="limits-next">
            {WORDS.loosensFrom(moment(from))}{' '}
            {differs
                .map((field) => WORDS.limitNow(field.replaceAll('_', ' '), inWords(now[field as keyof LimitsDocument], currency)))
                .join('; ')}
            .
        </p>
    );
}

/** What is in force of one part of the document, in a few words. */
function inWords(of: unknown, currency: string): string {
    if (of === null || of === undefined) return 'without a limit';
    if (typeof of !== 'object') return `${of}`;
    if (Array.isArray(of)) return of.length === 0 ? 'none' : `${of.length} of them`;
    const set = Object.entries(of).filter(([, value]) => value !== null && value !== false);
    return set.length === 0
        ? 'without a limit'
        : set.map(([key, value]) => `${key.replaceAll('_', ' ')} ${inWords(value, currency)}`).join(', ');
}

interface TypedProps {
    form: Form;
    name: FieldPath<LimitsFields>;
    label: string;
    narrow?: boolean;
}

function Typed({ form, name, label, narrow = false }: TypedProps) {
    return (
        <TextField
            className={`${narrow ? 'w-54' : 'w-110'} font-mono`}
            aria-label={label}
            placeholder="none"
            data-name={`limit-${name}`}
            {...form.register(name)}
        />
    );
}

function Pair({ label, children }: { label: string; children: ReactNode }) {
    return (
        <span className="whitespace-nowrap">
            <span className="text-soft">{label}</span> {children}
        </span>
    );
}

function Line({ unit = '', ...props }: TypedProps & { unit?: string }) {
    return (
        <span className="flex items-center justify-between gap-6 whitespace-nowrap">
            <span className="text-soft">{props.label}</span>
            <span>
                <Typed {...props} /> {unit}
            </span>
        </span>
    );
}

function InContract({
    form,
    at,
    legend,
    currency,
}: {
    form: Form;
    at: 'each' | `contracts.${string}`;
    legend: ReactNode;
    currency: string;
}) {
    const of = (field: keyof ContractFields) => `${at}.${field}` as FieldPath<LimitsFields>;
    return (
        <Group legend={legend} className="grid grid-cols-[1fr_1fr] gap-x-16 gap-y-4">
            <Line form={form} name={of('order_lots')} label="Lots in an order" />
            <Line form={form} name={of('position_lots')} label="Lots open and working" />
            <Line form={form} name={of('working_orders')} label="Entries working" />
            <Line form={form} name={of('band_ticks')} label="Furthest price through the market" />
            <Pair label="Risk of a trade">
                <Typed form={form} name={of('risk_money')} label="Risk of a trade, money" narrow /> {currency} or{' '}
                <Typed form={form} name={of('risk_percent')} label="Risk of a trade, percent of the balance" narrow /> % of balance
            </Pair>
            <label className="flex items-center gap-6">
                <input type="checkbox" data-name={`limit-${of('stop_required')}`} {...form.register(of('stop_required'))} />
                {WORDS.stopRequired}
            </label>
        </Group>
    );
}

/** What holds in one contract beside what holds in all of them; the tighter counts. */
function OneContract({ form, first, currency }: { form: Form; first: string; currency: string }) {
    const contracts = useChoices((choices) => choices.contracts);
    const [code, setCode] = useState(first);
    const set = Object.entries(form.watch('contracts')).filter(([one, of]) => one !== code && !isEmpty(of));
    return (
        <InContract
            key={code}
            form={form}
            at={`contracts.${code}`}
            currency={currency}
            legend={
                <>
                    In{' '}
                    <Select aria-label="Contract" value={code} data-name="limit-contract" onChange={(event) => setCode(event.target.value)}>
                        {contracts.map((one) => (
                            <option key={one.code}>{one.code}</option>
                        ))}
                    </Select>{' '}
                    {WORDS.besideEvery(set.length)}
                </>
            }
        />
    );
}

/** Times in which nothing new is entered, such as five minutes around a scheduled release. */
function Windows({ form, zone }: { form: Form; zone: string }) {
    const { fields, append, remove } = useFieldArray({ control: form.control, name: 'windows' });
    const shown = form.watch('windows');
    return (
        <div className="col-span-2 flex flex-col gap-4">
            {fields.map((field, at) => {
                const days = shown[at]?.days ?? '';
                return (
                    <span key={field.id} className="flex items-center gap-6">
                        <span className="text-soft">None</span>
                        <Select aria-label={WORDS.windowDays(at + 1)} {...form.register(`windows.${at}.days`)}>
                            {!DAYS.some(([one]) => one === days) && <option value={days}>days {days}</option>}
                            {DAYS.map(([one, words]) => (
                                <option key={one} value={one}>
                                    {words}
                                </option>
                            ))}
                        </Select>
                        {days === ON_A_DATE && (
                            <TextField
                                className="w-110 font-mono"
                                placeholder="2026-12-04"
                                aria-label={WORDS.windowDate(at + 1)}
                                {...form.register(`windows.${at}.date`)}
                            />
                        )}
                        from <Typed form={form} name={`windows.${at}.from`} label={WORDS.windowFrom(at + 1)} narrow /> to{' '}
                        <Typed form={form} name={`windows.${at}.until`} label={WORDS.windowUntil(at + 1)} narrow />
                        <Typed form={form} name={`windows.${at}.zone`} label={WORDS.windowZone(at + 1)} />
                        <Button tone="text" aria-label={WORDS.removeWindow(at + 1)} onClick={() => remove(at)}>
                            ×
                        </Button>
                    </span>
                );
            })}
            <span>
                <Button
                    tone="small"
                    data-name="add-window"
                    onClick={() => append({ days: '1,2,3,4,5', date: '', from: '14:25', until: '14:35', zone })}
                >
                    Add a no-entry window
                </Button>
            </span>
        </div>
    );
}
