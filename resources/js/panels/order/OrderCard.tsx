import clsx from 'clsx';
import { useEffect, useRef, useState } from 'react';
import type { Account, Contract } from '@/api/client';
import { useGhostWords } from '@/commands/useGhost';
import { useSizing } from '@/commands/useSizing';
import { bodyOf, useBasis } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { showKey, useKeyOf } from '@/model/keymap';
import { writeExact } from '@/model/prices';
import { show } from '@/model/screen';
import { lotsRow, useSettings } from '@/model/settings';
import { type SizedBy, typeLots, useSize, useSizedBy } from '@/model/sizing';
import { useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { Card } from '@/ui/Card';
import { FIELD } from '@/ui/looks';
import { Choice, OneOf } from '@/ui/OneOf';
import { Select } from '@/ui/Select';
import { TextField } from '@/ui/TextField';
import { NoiseTable } from './NoiseTable';
import { QuickRow } from './QuickRow';
import { RatchetCurve } from './RatchetCurve';
import { ThisOrderRow } from './ThisOrderRow';
import { WORDS } from './words';

const NO_PLAN = 'none';
const CHOICE = [
    'cursor-pointer rounded-card border border-rule px-2 py-3 text-usual disabled:cursor-default disabled:opacity-50',
    'data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:text-raised data-[state=on]:[&_kbd]:text-shade',
].join(' ');
const PLAN = `${CHOICE} min-w-[30%] max-w-full flex-auto truncate`;

function PlanPicker() {
    const plan = useChoices((choices) => choices.plan);
    const plans = useChoices((choices) => choices.plans);
    const nextKey = useKeyOf('next-plan');
    const plansKey = useKeyOf('plans');
    const list = useRef<HTMLDivElement>(null);
    // Of many plans the chosen one is in sight, whichever way it was chosen.
    // biome-ignore lint/correctness/useExhaustiveDependencies: the choice moves the mark
    useEffect(() => {
        list.current?.querySelector('[data-state=on]')?.scrollIntoView({ block: 'nearest' });
    }, [plan, plans]);
    return (
        <div className="flex gap-6">
            <OneOf
                ref={list}
                name="plans"
                label="Exit plan"
                // The third row is seen in part, so that nobody takes two rows for all.
                className="flex max-h-[4.6875rem] flex-1 flex-wrap content-start gap-6 overflow-y-auto scrollbar-thin [@container_cards_(max-height:640px)]:group-data-alarm/cards:max-h-[1.75rem]"
                value={plan === null ? NO_PLAN : String(plan)}
                set={(value) => useChoices.setState({ plan: value === NO_PLAN ? null : Number(value) })}
            >
                {plans.map((candidate) => (
                    <Choice key={candidate.id} className={PLAN} value={String(candidate.id)} title={candidate.document.name}>
                        {candidate.document.name}
                    </Choice>
                ))}
                <Choice className={PLAN} value={NO_PLAN}>
                    No plan
                </Choice>
            </OneOf>
            <span className="flex flex-col justify-around text-small whitespace-nowrap text-soft [&_kbd]:ml-2">
                <span>
                    next <kbd>{nextKey}</kbd>
                </span>
                <Button tone="text" data-name="edit-plans" onClick={() => show('plans')}>
                    edit <kbd>{plansKey}</kbd>
                </Button>
            </span>
        </div>
    );
}

function LotsRow({ limit }: { limit: number }) {
    const lots = useChoices((choices) => choices.lots);
    const code = useChoices((choices) => choices.code);
    const row = useSettings((settings) => lotsRow(settings, code));
    const keys = useSettings((settings) => settings.keys.keys);
    return (
        <OneOf
            name="lots"
            label="Lots"
            className="grid grid-cols-5 gap-6"
            value={String(lots)}
            set={(value) => useChoices.setState({ lots: Number(value) })}
        >
            {row.map((count, index) => (
                <Choice
                    className={CHOICE}
                    key={index}
                    value={String(count)}
                    disabled={count > limit}
                    title={count > limit ? WORDS.overLimit(limit) : undefined}
                >
                    {count} <kbd>{showKey(keys[`lots-${index + 1}`] ?? '')}</kbd>
                </Choice>
            ))}
        </OneOf>
    );
}

/** As the limits in force have it, which may have been set since the page was opened. */
const useOrderLimit = (account: Account): number => useDesk((desk) => desk.risk?.order_limit ?? account.order_limit);

const SIZED_BY: [by: SizedBy, words: string][] = [
    ['lots', 'Lots'],
    ['money', 'Risk'],
    ['percent', 'Risk %'],
    ['r', 'Risk R'],
];

/** It shows what was typed, whether that many can be sent or not. */
function LotsField({ limit }: { limit: number }) {
    const lots = useChoices((choices) => choices.lots);
    const [typed, setTyped] = useState<string | null>(null);
    return (
        <input
            className={clsx(FIELD, 'w-54 font-mono text-usual leading-[normal] font-semibold', lots === 0 && 'bg-amber! text-on-amber!')}
            aria-label="Lots"
            aria-invalid={lots === 0 || undefined}
            type="number"
            min={1}
            max={limit}
            step={1}
            value={lots === 0 ? (typed ?? '') : lots}
            onChange={(event) => {
                setTyped(event.target.value);
                typeLots(event.target.value, limit);
            }}
        />
    );
}

/** The lots of the next order, or what it may lose: then the lots follow. */
function SizeField({ account }: { account: Account }) {
    const lots = useChoices((choices) => choices.lots);
    const limit = useOrderLimit(account);
    const { by, amount } = useSizedBy();
    return (
        <span className="flex flex-none items-center gap-4" data-part="typed-lots">
            <Select
                className="w-60 flex-none text-small"
                aria-label={WORDS.sizedBy}
                data-name="sized-by"
                value={by}
                onChange={(event) => {
                    const to = event.target.value as SizedBy;
                    useSizedBy.setState({ by: to });
                    if (to === 'lots' && lots === 0) useChoices.setState({ lots: 1 });
                }}
            >
                {SIZED_BY.map(([id, words]) => (
                    <option key={id} value={id}>
                        {words}
                    </option>
                ))}
            </Select>
            {by === 'lots' ? (
                <LotsField limit={limit} />
            ) : (
                <>
                    <TextField
                        className="w-58 flex-none px-2! font-mono text-small"
                        inputMode="decimal"
                        aria-label={WORDS.mayLose}
                        data-name="sized-amount"
                        value={amount}
                        onChange={(event) => useSizedBy.setState({ amount: event.target.value })}
                    />
                    <b className="font-mono text-usual whitespace-nowrap text-ink" data-field="sized-lots">
                        ={lots}
                    </b>
                </>
            )}
        </span>
    );
}

function NoLots() {
    const size = useSize();
    return (
        <span className={size?.asks ? 'text-soft' : 'bg-amber px-4 text-on-amber'} data-alarm={size?.asks ? undefined : true}>
            {size?.words ?? '…'}
        </span>
    );
}

export function OrderCard({ account, contract }: { account: Account; contract: Contract }) {
    const lots = useChoices((choices) => choices.lots);
    const plan = useChoices((choices) => choices.plan);
    const tag = useChoices((choices) => choices.tag);
    const limit = useOrderLimit(account);
    const sizedBy = useSizedBy((kept) => kept.by);
    const basis = useBasis(contract.code);
    const quantity = useDesk((desk) => desk.positions[contract.code]?.quantity ?? 0);
    const sequence = useDesk((desk) => desk.positions[contract.code]?.sequence ?? 0);
    // What a market order that adds to the position would be: how the lots split, and what they risk.
    const words = useGhostWords(
        lots === 0 ? null : bodyOf({ side: quantity < 0 ? 'sell' : 'buy', kind: 'market' }, basis),
        String(sequence),
    );
    useSizing();

    return (
        <Card aria-label="Lots and exit plan">
            <PlanPicker />
            <RatchetCurve contract={contract} />
            <NoiseTable />
            <header className="flex items-center justify-between gap-4 text-small text-soft [@container_cards_(max-height:440px)]:hidden">
                <SizeField account={account} />
                <TextField
                    className="w-58 min-w-30 shrink text-usual"
                    aria-label="Tag"
                    maxLength={60}
                    placeholder="tag"
                    value={tag}
                    onChange={(event) => useChoices.setState({ tag: event.target.value.trimStart() })}
                    data-name="tag"
                />
                <span className="text-right text-tiny leading-13 whitespace-nowrap tabular-nums" data-field="margin">
                    {words?.margin && (
                        <>
                            margin {writeExact(words.margin, contract.minor_unit, false)}
                            {(sizedBy === 'lots' || contract.currency !== account.currency) && ` ${contract.currency}`}
                            {words.left !== '' && (
                                <>
                                    <br />
                                    {WORDS.left(writeExact(words.left, 0, false), account.currency)}
                                </>
                            )}
                        </>
                    )}
                </span>
            </header>
            <LotsRow limit={limit} />
            <p className="min-h-17 text-small" data-field="split">
                {lots === 0 ? (
                    <NoLots />
                ) : words ? (
                    `${words.split}${words.risk === '' ? '' : WORDS.risk(writeExact(words.risk, contract.minor_unit, false), writeExact(words.fees, contract.minor_unit, false))}`
                ) : (
                    ' '
                )}
            </p>
            <ThisOrderRow split={plan === null ? [] : (words?.shares ?? [])} />
            {words?.refused && <p className="min-h-17 text-small text-soft">{words.words}</p>}
            <QuickRow contract={contract} />
        </Card>
    );
}
