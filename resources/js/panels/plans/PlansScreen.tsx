import { useEffect } from 'react';
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
import { FileRow } from '@/ui/FileRow';
import { OrderButton } from '@/ui/OrderButton';
import { ask } from '@/ui/question';
import { isWritten } from '@/ui/written';
import { FRESH, type PlanDocument } from './document';
import { MiniCurve } from './MiniCurve';
import { PlanCurve } from './PlanCurve';
import { PlanForm, SampleRow } from './PlanForm';
import { begin, edit, freeName, isChanged, open, reload, remove, save, shift, take, useEditor } from './state';
import { Tryout } from './Tryout';
import { useStudy } from './useStudy';

/** An open position does not go out of sight while plans are written: its result, its protection, and the way out. */
function OpenNow({ contract }: { contract: Contract }) {
    const position = useDesk((desk) => desk.positions[contract.code]);
    const holdsFlatten = useIsHeld('flatten');
    const flattenKey = useKeyOf('flatten');
    if (!position || position.quantity === 0) return <span className="quiet">{contract.code} is flat</span>;
    const bare = position?.bare ?? 0;
    return (
        <>
            <b>
                {position.words} {contract.code} · {writeExact(position.open_money, contract.minor_unit)} {contract.currency}
            </b>
            {bare > 0 && (
                <b className="alarm" role="alert">
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
        words: 'The plan has changes that are not saved.',
        safe: 'Go on writing',
        answers: [{ label: 'Leave them', name: 'leave-changes', act: go }],
    });
}

/** The key that opened the editor, and Esc, go back to the desk, and what is not saved waits there; in a field Esc leaves the field first. */
function useLeaving(): void {
    useEffect(() => {
        const press = (event: KeyboardEvent) => {
            if (!isFor('plans', event) || document.querySelector('dialog[open]') || event.repeat) return;
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
        <nav className="plan-list" aria-label="Exit plans">
            <ul>
                {plans.map((stored, at) => {
                    const plan = stored.document as unknown as PlanDocument;
                    return (
                        <li key={stored.id} data-plan={stored.id} className={stored.id === editor.id ? 'chosen' : undefined}>
                            <button
                                type="button"
                                className="plan-name"
                                aria-current={stored.id === editor.id ? 'true' : undefined}
                                onClick={() => stored.id !== editor.id && leave(() => open(stored))}
                            >
                                <b>{plan.name}</b>
                                <MiniCurve key={stored.version} plan={stored} contract={contract} />
                            </button>
                            <span className="plan-acts">
                                <button
                                    type="button"
                                    aria-label={`${plan.name} up`}
                                    disabled={at === 0}
                                    onClick={() => void shift(stored.id, -1)}
                                >
                                    ↑
                                </button>
                                <button
                                    type="button"
                                    aria-label={`${plan.name} down`}
                                    disabled={at === plans.length - 1}
                                    onClick={() => void shift(stored.id, 1)}
                                >
                                    ↓
                                </button>
                                <button type="button" onClick={() => leave(() => begin({ ...plan, name: freeName(plan.name) }))}>
                                    Duplicate
                                </button>
                                <button
                                    type="button"
                                    onClick={() =>
                                        ask({
                                            title: 'Delete the plan?',
                                            words: `Delete the plan ${plan.name}?`,
                                            safe: 'Keep it',
                                            answers: [{ label: 'Delete it', name: 'delete-plan', act: () => void remove(stored.id) }],
                                        })
                                    }
                                >
                                    Delete
                                </button>
                            </span>
                        </li>
                    );
                })}
            </ul>
            <button
                type="button"
                className="order-button small"
                data-name="new-plan"
                onClick={() => leave(() => begin({ ...FRESH, name: freeName(FRESH.name) }))}
            >
                New plan
            </button>
            <FileRow name={editor.plan.name.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')} document={editor.plan} take={take} />
        </nav>
    );
}

/** Which contracts begin with this plan when they are put on the ladder. */
function Defaults({ id }: { id: number }) {
    const contracts = useChoices((choices) => choices.contracts);
    const entry = useSettings((settings) => settings.entry);
    const turn = (code: string) => {
        const { plan, ...rest } = entry.contracts[code] ?? {};
        const own = plan === id ? rest : { ...rest, plan: id };
        saveSettings('entry', { ...entry, contracts: { ...entry.contracts, [code]: own } }).catch((error: Error) => say(error.message));
    };
    return (
        <fieldset className="defaults">
            <legend>Default plan for</legend>
            {contracts.map(({ code }) => (
                <label key={code} className="check">
                    <input type="checkbox" checked={entry.contracts[code]?.plan === id} onChange={() => turn(code)} /> {code}
                </label>
            ))}
        </fieldset>
    );
}

/** What is risked for what, how often it must win, and what is odd about the plan. */
function Odds({ study, contract }: { study: PlanStudy; contract: Contract }) {
    const money = (amount: string) => `${writeExact(amount, contract.minor_unit, false)} ${contract.currency}`;
    const percent = (rate: string | null) => (rate === null ? '—' : `${rate} %`);
    return (
        <>
            <dl className="odds">
                <div>
                    <dt>Risk</dt>
                    <dd data-field="plan-risk">{study.risk === null ? 'no limit' : money(study.risk)}</dd>
                </div>
                <div>
                    <dt>Reward of targets</dt>
                    <dd>{money(study.reward)}</dd>
                </div>
                <div>
                    <dt>For each 1 risked</dt>
                    <dd data-field="ratio">{study.ratio ?? '—'}</dd>
                </div>
                <div>
                    <dt>Must win to break even</dt>
                    <dd data-field="win-rate">{percent(study.win_rate)}</dd>
                </div>
                <div>
                    <dt>with {money(study.fees)} fees</dt>
                    <dd>{percent(study.win_rate_with_fees)}</dd>
                </div>
            </dl>
            {study.warnings.length > 0 && (
                <ul className="warnings" aria-label="Legal, but odd">
                    {study.warnings.map((warning) => (
                        <li key={warning}>{warning}</li>
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
    useLeaving();

    useEffect(() => {
        reload().catch((error: Error) => say(error.message));
    }, []);
    useEffect(() => {
        const { id, sample, saved } = useEditor.getState();
        const { plans, plan, lots } = useChoices.getState();
        if (sample.contract === '') useEditor.setState({ sample: { ...sample, contract: contract.code, quantity: Math.max(lots, 1) } });
        const chosen = plans.find((candidate) => candidate.id === plan) ?? plans[0];
        if (id === null && saved === '' && chosen) open(chosen);
    }, [contract.code]);

    return (
        <div className="desk plans-screen">
            <TopBar account={account} />
            <main>
                <PlanList contract={sampled.code} />
                <section className="plan-middle" aria-label="The ratchet curve">
                    <p className="plan-head">
                        <OpenNow contract={contract} />
                        <span className="spacer" />
                        <button type="button" className="order-button small" data-name="to-desk" onClick={() => show('desk')}>
                            Back to the desk
                        </button>
                    </p>
                    <SampleRow contract={sampled} contracts={contracts} />
                    {editor.plan.portions.some((portion) => portion.stop || portion.ratchets) && (
                        <fieldset className="scopes" aria-label="Whose stop and ratchets">
                            <button
                                type="button"
                                aria-pressed={editor.scope === 'plan'}
                                onClick={() => useEditor.setState({ scope: 'plan' })}
                            >
                                The plan's
                            </button>
                            {editor.plan.portions.map(
                                (portion, index) =>
                                    (portion.stop || portion.ratchets) && (
                                        <button
                                            key={index}
                                            type="button"
                                            aria-pressed={editor.scope === index}
                                            onClick={() => useEditor.setState({ scope: index })}
                                        >
                                            Portion {index + 1}'s own
                                        </button>
                                    ),
                            )}
                        </fieldset>
                    )}
                    {study ? <PlanCurve study={study} /> : <p className="plan-curve unknown">It cannot be measured here as it stands.</p>}
                    {study && <Odds study={study} contract={sampled} />}
                    <p className={fault === '' && editor.fault === '' ? 'fault empty-fault' : 'fault'} role="alert" data-field="plan-fault">
                        {editor.fault || fault || ' '}
                    </p>
                    <Tryout contract={sampled} />
                </section>
                <aside className="plan-side">
                    <p className="plan-save">
                        <button
                            type="button"
                            className="order-button strong"
                            disabled={!changed || !isPlan}
                            data-name="save-plan"
                            onClick={() => void save()}
                        >
                            {editor.id === null ? 'Save as a new plan' : 'Save'}
                        </button>
                        <button
                            type="button"
                            className="order-button small"
                            disabled={!changed || editor.saved === ''}
                            onClick={() => edit(JSON.parse(editor.saved) as PlanDocument)}
                        >
                            As it was
                        </button>
                    </p>
                    <PlanForm study={study} contract={sampled} />
                    {editor.id !== null && <Defaults id={editor.id} />}
                </aside>
            </main>
        </div>
    );
}
