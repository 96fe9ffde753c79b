import clsx from 'clsx';
import { useRef, useState } from 'react';
import type { Account, Contract } from '@/api/client';
import { useGhostWords } from '@/commands/useGhost';
import { useSizing } from '@/commands/useSizing';
import { bodyOf, useBasis } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { showKey } from '@/model/keymap';
import { writeExact } from '@/model/prices';
import { lotsRow, useSettings } from '@/model/settings';
import { type SizedBy, typeLots, useSize, useSizedBy } from '@/model/sizing';
import { useDesk } from '@/stream/store';
import { Card } from '@/ui/Card';
import { FIELD } from '@/ui/looks';
import { Choice, OneOf } from '@/ui/OneOf';
import { Select } from '@/ui/Select';
import { TextField } from '@/ui/TextField';
import { CHOICE } from './looks';
import { NoiseTable } from './NoiseTable';
import { PlanPicker } from './PlanPicker';
import { QuickRow } from './QuickRow';
import { RatchetCurve } from './RatchetCurve';
import { ThisOrderRow } from './ThisOrderRow';
import { WORDS } from './words';

function LotsRow({ limit }: { limit: number }) {
    const lots = useChoices((choices) => choices.lots);
    const code = useChoices((choices) => choices.code);
    const row = useSettings((settings) => lotsRow(settings, code));
    const keys = useSettings((settings) => settings.keys.keys);
    return (
        <OneOf
            name="lots"
            label="Lots"
            className="grid grid-cols-5 gap-6 short:flex-1 short:gap-3"
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
                className={clsx('w-60 flex-none text-small', by === 'lots' && 'short:hidden')}
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
    const card = useRef<HTMLElement>(null);

    return (
        <Card ref={card} aria-label="Lots and exit plan" className="short:gap-3 short:py-3">
            <PlanPicker card={card} />
            <RatchetCurve contract={contract} />
            <NoiseTable />
            <div className="flex flex-col gap-4 short:flex-row short:gap-4">
                <header className="flex items-center justify-between gap-4 text-small text-soft">
                    <SizeField account={account} />
                    <TextField
                        className="w-58 min-w-30 shrink text-usual short:hidden"
                        aria-label="Tag"
                        maxLength={60}
                        placeholder="tag"
                        value={tag}
                        onChange={(event) => useChoices.setState({ tag: event.target.value.trimStart() })}
                        data-name="tag"
                    />
                    <span className="text-right text-tiny leading-13 whitespace-nowrap tabular-nums short:hidden" data-field="margin">
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
            </div>
            <p className={clsx('min-h-17 text-small short:min-h-0 short:leading-15', words?.refused && 'text-soft')} data-field="split">
                {lots === 0 ? (
                    <NoLots />
                ) : words?.refused ? (
                    words.words
                ) : words ? (
                    `${words.split}${words.risk === '' ? '' : WORDS.risk(writeExact(words.risk, contract.minor_unit, false), writeExact(words.fees, contract.minor_unit, false))}`
                ) : (
                    ' '
                )}
            </p>
            {!words?.refused && <ThisOrderRow split={plan === null ? [] : (words?.shares ?? [])} />}
            <QuickRow contract={contract} />
        </Card>
    );
}
