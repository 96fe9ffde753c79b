import clsx from 'clsx';
import { useEffect } from 'react';
import { useIsChanging } from '@/api/change';
import type { Account, Contract, PlanStudy } from '@/api/client';
import { flatten } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { useIsHeld } from '@/model/held';
import { comboOf, keyFor, useKeyOf } from '@/model/keymap';
import { countLots, writeExact } from '@/model/prices';
import { isFor, show } from '@/model/screen';
import { saveSettings, useSettings } from '@/model/settings';
import { TopBar } from '@/panels/top/TopBar';
import { say, useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Fault } from '@/ui/Fault';
import { FileRow } from '@/ui/FileRow';
import { Group } from '@/ui/Group';
import { BUTTON } from '@/ui/looks';
import { isModalOpen } from '@/ui/modal';
import { Choice, OneOf } from '@/ui/OneOf';
import { OrderButton } from '@/ui/OrderButton';
import { ask } from '@/ui/question';
import { SCREEN } from '@/ui/screens';
import { isWritten } from '@/ui/written';
import { FRESH, type PlanDocument } from './document';
import { MiniCurve } from './MiniCurve';
import { NoiseCurve } from './NoiseCurve';
import { PlanCurve } from './PlanCurve';
import { PlanForm } from './PlanForm';
import { SampleRow } from './SampleRow';
import { begin, edit, freeName, isChanged, open, PLANS, reload, remove, save, shift, take, useEditor } from './state';
import { Tryout } from './Tryout';
import { useStudy } from './useStudy';
import { WORDS } from './words';

const SIDE = 'min-h-0 overflow-y-auto border-rule bg-raised p-10';
const ROW = 'mb-4 flex items-center gap-10';
const DD = 'font-mono text-usual font-bold tabular-nums';

/** An open position does not go out of sight while plans are written: its result, its protection, and the way out. */
function OpenNow({ contract }: { contract: Contract }) {
    const position = useDesk((desk) => desk.positions[contract.code]);
    const holdsFlatten = useIsHeld('flatten');
    const flattenKey = useKeyOf('flatten');
    if (!position || position.quantity === 0) return <span className="text-soft">{WORDS.isFlat(contract.code)}</span>;
    const bare = position?.bare ?? 0;
    return (
        <>
            <b>
                {position.words} {contract.code} · {writeExact(position.open_money, contract.minor_unit)} {contract.currency}
            </b>
            {bare > 0 && (
                <b className="bg-amber px-8 py-2 font-bold text-on-amber" role="alert">
                    {countLots(bare)} unprotected
                </b>
            )}
            <OrderButton
                tone="small"
                label="Flatten"
                keyName={`hold ${flattenKey}`}
                held={holdsFlatten}
                act={() => void flatten(groundOf(contract.code))}
                name="flatten"
            />
        </>
    );
}

/** Changes that are not saved are asked about before they are left. */
function leave(go: () => void): void {
    if (!isChanged(useEditor.getState())) return go();
    ask({
        title: 'Leave the changes?',
        words: WORDS.unsaved,
        safe: 'Go on writing',
        answers: [{ label: 'Leave them', name: 'leave-changes', act: go }],
    });
}

/** The key that opened the editor, and Esc, go back to the desk, and what is not saved waits there; in a field Esc leaves the field first. */
function useLeaving(): void {
    useEffect(() => {
        const press = (event: KeyboardEvent) => {
            if (event.defaultPrevented || !isFor('plans', event) || isModalOpen() || event.repeat) return;
            const isEsc = event.key === 'Escape';
            if (isWritten(event.target)) return isEsc ? (event.target as HTMLElement).blur() : undefined;
            if (isEsc || comboOf(event) === keyFor('plans')) show('desk');
        };
        window.addEventListener('keydown', press);
        return () => window.removeEventListener('keydown', press);
    }, []);
}

function PlanList({ contract }: { contract: string }) {
    const plans = useChoices((choices) => choices.plans);
    const editor = useEditor();
    return (
        <nav className={`${SIDE} border-r`} data-part="plan-list" aria-label="Exit plans">
            <ul className="mb-8">
                {plans.map((stored, at) => {
                    const plan = stored.document as unknown as PlanDocument;
                    return (
                        <li
                            key={stored.id}
                            data-plan={stored.id}
                            className={clsx(
                                'mb-6 rounded-card border bg-paper',
                                stored.id === editor.id ? 'border-ink shadow-[inset_3px_0_0_var(--color-ink)]' : 'border-rule',
                            )}
                        >
                            <button
                                type="button"
                                className="flex w-full cursor-pointer items-center justify-between px-8 py-4 text-left"
                                data-part="plan-name"
                                aria-current={stored.id === editor.id ? 'true' : undefined}
                                onClick={() => stored.id !== editor.id && leave(() => open(stored))}
                            >
                                <b>{plan.name}</b>
                                <MiniCurve key={stored.version} plan={stored} contract={contract} />
                            </button>
                            <span className="flex gap-2 px-6 pb-4" data-part="plan-acts">
                                <Button
                                    tone="text"
                                    aria-label={`${plan.name} up`}
                                    disabled={at === 0}
                                    onClick={() => void shift(stored.id, -1)}
                                >
                                    ↑
                                </Button>
                                <Button
                                    tone="text"
                                    aria-label={`${plan.name} down`}
                                    disabled={at === plans.length - 1}
                                    onClick={() => void shift(stored.id, 1)}
                                >
                                    ↓
                                </Button>
                                <Button tone="text" onClick={() => leave(() => begin({ ...plan, name: freeName(plan.name) }))}>
                                    Duplicate
                                </Button>
                                <Button
                                    tone="text"
                                    onClick={() =>
                                        ask({
                                            title: 'Delete the plan?',
                                            words: WORDS.deleteThePlan(plan.name),
                                            safe: 'Keep it',
                                            answers: [{ label: 'Delete it', name: 'delete-plan', act: () => void remove(stored.id) }],
                                        })
                                    }
                                >
                                    Delete
                                </Button>
                            </span>
                        </li>
                    );
                })}
            </ul>
            <Button tone="small" data-name="new-plan" onClick={() => leave(() => begin({ ...FRESH, name: freeName(FRESH.name) }))}>
                New plan
            </Button>
            <FileRow what="plan" name={editor.plan.name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')} document={editor.plan} take={take} />
        </nav>
    );
}

/** Which contracts begin with this plan when they are put on the ladder. */
function Defaults({ id }: { id: number }) {
    const contracts = useChoices((choices) => choices.contracts);
    const entry = useSettings((settings) => settings.entry);
    const turn = (code: string) => {
        const make = (now: typeof entry) => {
            const { plan, ...rest } = now.contracts[code] ?? {};
            return { ...now, contracts: { ...now.contracts, [code]: plan === id ? rest : { ...rest, plan: id } } };
        };
        void saveSettings('entry', make).then((fault) => fault !== '' && say(fault));
    };
    return (
        <Group legend="Default plan for" look="ruled" className="mt-8 flex flex-wrap gap-x-10 gap-y-4" data-part="defaults">
            {contracts.map(({ code }) => (
                <Checkbox key={code} checked={entry.contracts[code]?.plan === id} set={() => turn(code)} name={`default-${code}`}>
                    {code}
                </Checkbox>
            ))}
        </Group>
    );
}

/** What is risked for what, how often it must win, and what is odd about the plan. */
function Odds({ study, contract }: { study: PlanStudy; contract: Contract }) {
    const money = (amount: string) => `${writeExact(amount, contract.minor_unit, false)} ${contract.currency}`;
    const percent = (rate: string | null) => (rate === null ? '—' : `${rate} %`);
    return (
        <>
            <dl className="mt-6 mb-4 flex justify-between gap-10">
                <div>
                    <dt className="text-tiny text-soft">Risk</dt>
                    <dd className={DD} data-field="plan-risk">
                        {study.risk === null ? 'no limit' : money(study.risk)}
                    </dd>
                </div>
                <div>
                    <dt className="text-tiny text-soft">Reward of targets</dt>
                    <dd className={DD}>{money(study.reward)}</dd>
                </div>
                <div>
                    <dt className="text-tiny text-soft">Reward/risk</dt>
                    <dd className={DD} data-field="ratio">
                        {study.ratio ?? '—'}
                    </dd>
                </div>
                <div>
                    <dt className="text-tiny text-soft">{WORDS.mustWin}</dt>
                    <dd className={DD} data-field="win-rate">
                        {percent(study.win_rate)}
                    </dd>
                </div>
                <div>
                    <dt className="text-tiny text-soft">{WORDS.withFees(money(study.fees))}</dt>
                    <dd className={DD}>{percent(study.win_rate_with_fees)}</dd>
                </div>
            </dl>
            {study.warnings.length > 0 && (
                <ul className="mb-8" data-part="warnings" aria-label="Legal, but odd">
                    {study.warnings.map((warning) => (
                        <li key={warning} className="mb-3 rounded-field bg-amber px-8 py-2 text-on-amber">
                            {warning}
                        </li>
                    ))}
                </ul>
            )}
        </>
    );
}

export default function PlansScreen({ account, contract }: { account: Account; contract: Contract }) {
    const contracts = useChoices((choices) => choices.contracts);
    const editor = useEditor();
    const { study, fault, isPlan } = useStudy();
    const sampled = contracts.find(({ code }) => code === editor.sample.contract) ?? contract;
    const changed = isChanged(editor);
    const isSaving = useIsChanging(PLANS);
    useLeaving();

    useEffect(() => {
        reload().catch((error: Error) => say(error.message));
    }, []);
    useEffect(() => {
        const { id, sample, saved } = useEditor.getState();
        const { plans, plan, lots } = useChoices.getState();
        const chosen = plans.find((candidate) => candidate.id === plan) ?? plans[0];
        // A lot for each portion, so that each of them is seen.
        const quantity = Math.max(lots, (chosen?.document as PlanDocument | undefined)?.portions.length ?? 1);
        if (sample.contract === '') useEditor.setState({ sample: { ...sample, contract: contract.code, quantity } });
        if (id === null && saved === '' && chosen) open(chosen);
    }, [contract.code]);

    return (
        <div className={SCREEN} data-part="plans-screen">
            <h1 className="sr-only">{WORDS.title}</h1>
            <TopBar account={account} />
            <main className="row-start-2 grid min-h-0 grid-cols-[216px_minmax(0,1fr)_380px] grid-rows-[minmax(0,1fr)] overflow-hidden">
                <PlanList contract={sampled.code} />
                <section
                    // Wider than this the drawings only grow: what is below them would go out of sight.
                    className="flex min-h-0 flex-col overflow-x-hidden overflow-y-auto px-14 py-8"
                    aria-label="The ratchet curve"
                >
                    <div className="mx-auto flex w-full max-w-820 flex-col">
                        <p className={ROW} data-part="plan-head">
                            <OpenNow contract={contract} />
                            <span className="flex-1" />
                            <Button tone="small" data-name="to-desk" onClick={() => show('desk')}>
                                Back to the desk
                            </Button>
                        </p>
                        <SampleRow contract={sampled} contracts={contracts} />
                        {editor.plan.portions.some((portion) => portion.stop || portion.ratchets) && (
                            <OneOf
                                label="Whose stop and ratchets"
                                className="mt-4 flex gap-4"
                                value={String(editor.scope)}
                                set={(scope) => useEditor.setState({ scope: scope === 'plan' ? scope : Number(scope) })}
                            >
                                <Choice value="plan" className={BUTTON.choice}>
                                    The plan's
                                </Choice>
                                {editor.plan.portions.map(
                                    (portion, index) =>
                                        (portion.stop || portion.ratchets) && (
                                            <Choice key={index} value={String(index)} className={BUTTON.choice}>
                                                {WORDS.portionsOwn(index + 1)}
                                            </Choice>
                                        ),
                                )}
                            </OneOf>
                        )}
                        {study ? (
                            <PlanCurve study={study} />
                        ) : (
                            <p
                                data-part="plan-curve"
                                className="grid h-320 place-items-center rounded-card border border-rule bg-raised text-soft"
                            >
                                {WORDS.cannotBeMeasured}
                            </p>
                        )}
                        {study && <Odds study={study} contract={sampled} />}
                        <Fault words={editor.fault || fault} name="plan-fault" />
                        <NoiseCurve />
                        <Tryout contract={sampled} />
                    </div>
                </section>
                <aside className={`${SIDE} border-l text-usual`}>
                    <p className={ROW}>
                        <Button
                            tone="strong"
                            disabled={!changed || !isPlan || isSaving}
                            aria-busy={isSaving}
                            data-name="save-plan"
                            onClick={() => void save()}
                        >
                            {editor.id === null ? WORDS.saveAsNew : 'Save'}
                        </Button>
                        <Button
                            tone="small"
                            disabled={!changed || editor.saved === ''}
                            onClick={() => edit(JSON.parse(editor.saved) as PlanDocument)}
                        >
                            As it was
                        </Button>
                    </p>
                    <PlanForm study={study} contract={sampled} />
                    {editor.id !== null && <Defaults id={editor.id} />}
                </aside>
            </main>
        </div>
    );
}
