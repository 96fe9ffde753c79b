import clsx from 'clsx';
import { useEffect } from 'react';
import type { Account, Contract, Position } from '@/api/client';
import { breakEven, cancelAccount, cancelAll, cover, flatten, flattenAccount, halfOff, move } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { chooseContract, useChoices } from '@/model/choices';
import { allOneClickOff, laddersNow } from '@/model/ladders';
import { usePnlShown } from '@/model/pnlShown';
import { countLots, price, writeExact, writePrice } from '@/model/prices';
import { once } from '@/model/secondPress';
import { JustSaid } from '@/panels/justSaid/JustSaid';
import { Closer } from '@/panels/position/Closer';
import { SequenceMark } from '@/panels/top/SequenceMark';
import { FeedWord, Figures, useTitle } from '@/panels/top/TopBar';
import { useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { Card } from '@/ui/Card';
import { Figure } from '@/ui/Figure';
import { HoldButton } from '@/ui/HoldButton';
import { Choice, OneOf } from '@/ui/OneOf';
import { OrderButton } from '@/ui/OrderButton';
import { useShowWhole } from '@/ui/useNarrow';
import { WORDS } from './words';

/** For a small screen in the hand: what is open, whether it is protected, and what protects, tightens and gets out. Nothing here opens anything. */
export function PhonePage({ account, contract }: { account: Account; contract: Contract }) {
    useTitle();
    const showWhole = useShowWhole();
    // Nobody watches it while there is no ladder: a desk that comes back begins with drafts.
    useEffect(() => {
        if (laddersNow().some((ladder) => ladder.oneClick)) allOneClickOff(WORDS.noLadder);
    }, []);
    return (
        <div className="flex h-dvh flex-col overflow-y-auto bg-paper" data-part="phone">
            <SequenceMark />
            <header className="sticky top-0 z-line flex flex-wrap items-center gap-x-14 gap-y-4 border-b border-rule bg-raised px-14 py-8">
                <h1 className="text-title font-bold">Lotrik</h1>
                <FeedWord />
                <Figures account={account} tells={false} />
                {showWhole && (
                    <Button tone="touch" data-action="whole-desk" onClick={showWhole}>
                        Show the whole desk
                    </Button>
                )}
            </header>
            <main className="flex flex-col gap-10 p-10">
                <Contracts />
                <InOne key={contract.code} contract={contract} />
                <WholeAccount />
                <JustSaid />
            </main>
        </div>
    );
}

/** Those in which something is open or working, and the one that is looked at. */
function Contracts() {
    const contracts = useChoices((choices) => choices.contracts);
    const code = useChoices((choices) => choices.code);
    const positions = useDesk((desk) => desk.positions);
    const working = useDesk((desk) => desk.orders);
    const active = new Set([...working.values()].map((order) => order.contract));
    for (const position of Object.values(positions)) if (position.quantity !== 0) active.add(position.contract);
    const shown = contracts.filter((one) => one.code === code || active.has(one.code));
    return (
        <OneOf label="Contracts" className="flex flex-wrap gap-8" value={code} set={chooseContract}>
            {shown.map((one) => (
                <Choice
                    key={one.code}
                    value={one.code}
                    className="min-h-44 rounded-card border border-rule bg-paper px-14 data-[state=on]:border-ink data-[state=on]:bg-raised data-[state=on]:font-bold"
                >
                    {one.code} <Lots of={positions[one.code]} />
                </Choice>
            ))}
        </OneOf>
    );
}

function Lots({ of }: { of: Position | undefined }) {
    if (!of || of.quantity === 0) return null;
    return (
        <em className={clsx('font-mono not-italic', of.bare > 0 && 'bg-amber px-3 text-on-amber')}>
            {of.quantity > 0 ? `+${of.quantity}` : of.quantity}
            {of.bare > 0 && '!'}
        </em>
    );
}

const DD = 'text-right font-mono font-semibold';

function InOne({ contract }: { contract: Contract }) {
    const position = useDesk((desk) => desk.positions[contract.code]);
    const isWorking = useDesk((desk) => [...desk.orders.values()].some((order) => order.contract === contract.code));
    const plan = useChoices((choices) => choices.plans.find((candidate) => candidate.id === choices.plan));
    const shown = usePnlShown();
    const ground = groundOf(contract.code);
    const lots = Math.abs(position?.quantity ?? 0);
    if (!position || lots === 0) {
        return (
            <Card aria-label="Position">
                <p className="text-figure" data-field="position">
                    Flat
                </p>
                <OrderButton
                    tone="touch"
                    label={WORDS.cancelAll(contract.code)}
                    disabled={!isWorking}
                    act={() => void cancelAll(ground)}
                    name="cancel-all"
                />
            </Card>
        );
    }
    const { ticks, percent, r } = position.open_words;
    const plain = (money: string): string => `${writeExact(money, contract.minor_unit, false)} ${contract.currency}`;
    return (
        <Card aria-label="Position" className="gap-10!">
            <p className="flex items-baseline justify-between gap-10 text-figure tabular-nums">
                <b data-field="position">{position.words}</b>
                <Figure money={position.open_money} className="font-mono" data-field="open">
                    {writeExact(position.open_money, contract.minor_unit)} {contract.currency}
                </Figure>
            </p>
            <p className="text-right font-mono text-soft">{[ticks, shown.percent && percent, shown.r && r].filter(Boolean).join(' · ')}</p>
            <dl className="grid grid-cols-[1fr_auto] gap-y-2">
                <dt>Average</dt>
                <dd className={DD}>{position.average_words}</dd>
                <dt>Protected</dt>
                <dd className={clsx(DD, position.bare > 0 && 'bg-amber px-8 text-on-amber')} data-field="protected">
                    {position.protected} of {lots}
                </dd>
                <dt>{WORDS.riskFromHere}</dt>
                <dd className={DD}>{position.unprotected > 0 ? 'no limit' : plain(position.risk_from_here)}</dd>
                <dt>Locked in</dt>
                <dd className={DD}>{plain(position.locked_in)}</dd>
            </dl>
            {position.bare > 0 && (
                <div
                    className="flex flex-col gap-8 rounded-card border-3 border-loss bg-amber px-10 py-8 text-alarm font-bold text-on-amber"
                    role="alert"
                    data-field="alarm"
                >
                    <b>{countLots(position.bare)} unprotected</b>
                    {plan && (
                        <OrderButton
                            tone="touch"
                            label={WORDS.cover(countLots(position.bare), plan.document.name)}
                            act={() => void cover(ground, plan.id)}
                            name="cover"
                        />
                    )}
                </div>
            )}
            <Targets position={position} contract={contract} />
            <div className="grid grid-cols-2 gap-8">
                <OrderButton tone="touch" label="Break-even" act={() => void breakEven(ground)} name="break-even" />
                <Closer contract={contract.code} disabled={position.protected === 0} tone="touch" />
                <OrderButton
                    tone="touch"
                    label="Half off"
                    disabled={lots < 2}
                    act={once(`${contract.code} half off`, 'half off', () => void halfOff(ground))}
                    name="half-off"
                />
                <OrderButton tone="touch" label="Cancel all" disabled={!isWorking} act={() => void cancelAll(ground)} name="cancel-all" />
            </div>
            <HoldButton
                label={position.flattening ? WORDS.flattening(lots) : `Flatten ${lots}`}
                act={() => void flatten(ground)}
                name="flatten"
            />
        </Card>
    );
}

/** Each portion's stop and target; a target moves a tick at a time. */
function Targets({ position, contract }: { position: Position; contract: Contract }) {
    const orders = useDesk((desk) => desk.orders);
    const step = (id: number | null, ticks: number) => {
        const order = id === null ? undefined : orders.get(id);
        if (order?.level != null) move(order, price(contract, order.level + ticks));
    };
    return (
        <ul className="flex flex-col gap-8" aria-label="Portions of the position">
            {position.entries.flatMap((entry) =>
                entry.portions.map((portion) => (
                    <li
                        key={`${entry.entry}/${portion.portion}/${portion.group}`}
                        className="grid grid-cols-[auto_1fr_auto] items-center gap-8 font-mono"
                        data-part="portion-row"
                    >
                        <b>{portion.lots}</b>
                        <span>
                            {portion.stop === null
                                ? position.unprotected > 0
                                    ? 'no stop'
                                    : WORDS.byOrder
                                : `stop ${writePrice(contract, portion.stop)}`}
                            <br />
                            {portion.target === null ? 'no target' : `target ${writePrice(contract, portion.target)}`}
                        </span>
                        {portion.target_order !== null && (
                            <span className="flex gap-6">
                                {[-1, 1].map((by) => (
                                    <OrderButton
                                        key={by}
                                        tone="touch"
                                        label={<span aria-hidden="true">{by < 0 ? '▾' : '▴'}</span>}
                                        title={WORDS.stepTarget(portion.portion, by)}
                                        act={() => step(portion.target_order, by)}
                                        name={`target-${portion.portion}-${by < 0 ? 'lower' : 'higher'}`}
                                    />
                                ))}
                            </span>
                        )}
                    </li>
                )),
            )}
        </ul>
    );
}

function WholeAccount() {
    const isOpen = useDesk((desk) => Object.values(desk.positions).some((position) => position.quantity !== 0));
    const isWorking = useDesk((desk) => desk.orders.size > 0);
    return (
        <div className="grid grid-cols-2 gap-8">
            <HoldButton
                label="Flatten all"
                disabled={!isOpen && !isWorking}
                act={() => flattenAccount(groundOf())}
                name="flatten-account"
            />
            <OrderButton
                tone="touch"
                label="Cancel all orders"
                disabled={!isWorking}
                act={() => cancelAccount(groundOf())}
                name="cancel-account"
            />
        </div>
    );
}
