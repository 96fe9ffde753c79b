import clsx from 'clsx';
import type { Contract, Position } from '@/api/client';
import { breakEven, cancelAll, closeFirstPortion, cover, flatten, halfOff, reverse } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { useIsHeld } from '@/model/held';
import { useKeyOf } from '@/model/keymap';
import { usePnlShown } from '@/model/pnlShown';
import { countLots, writeExact } from '@/model/prices';
import { once } from '@/model/secondPress';
import { useDesk } from '@/stream/store';
import { Card } from '@/ui/Card';
import { Figure } from '@/ui/Figure';
import { OrderButton } from '@/ui/OrderButton';
import { Closer } from './Closer';
import { Portions } from './Portions';
import { WORDS } from './words';

/** Where the lists have taken nearly all of the room, what closes and buys comes first. */
const ROOMY = '[@container_cards_(max-height:440px)]:hidden';
const DD = 'text-right font-mono font-semibold';

export function PositionCard({ contract }: { contract: Contract }) {
    const position = useDesk((desk) => desk.positions[contract.code]);
    const working = useDesk((desk) => [...desk.orders.values()].filter((order) => order.contract === contract.code).length);
    const ground = groundOf(contract.code);
    const holdsFlatten = useIsHeld('flatten');
    const holdsReverse = useIsHeld('reverse');
    const holdsHalf = useIsHeld('half-off');
    const holdsCancel = useIsHeld('cancel-all');
    const holdsClose = useIsHeld('close-portion');
    const holdsUncover = useIsHeld('uncover');
    const closeKey = useKeyOf('close-portion');
    const coverKey = useKeyOf('cover');
    const uncoverKey = useKeyOf('uncover');
    const leftBehind = position?.left_behind ?? 0;
    const signed = (money: string): string => writeExact(money, contract.minor_unit);
    const plain = (money: string): string => writeExact(money, contract.minor_unit, false);
    const plan = useChoices((choices) => choices.plans.find((candidate) => candidate.id === choices.plan));
    const lots = Math.abs(position?.quantity ?? 0);
    const open = position?.open_money ?? '0.00';
    const bare = position?.bare ?? 0;
    const hasPosition = position !== undefined && lots > 0;

    return (
        <Card aria-label="Position" className="overflow-y-auto scrollbar-thin">
            <header className={`flex flex-none items-center justify-between text-small text-soft ${ROOMY}`}>
                <span>{contract.code}</span>
                {hasPosition && <OpenWords words={position.open_words} />}
                <OrderButton
                    tone="small"
                    label="Reverse"
                    keyName={`hold ${useKeyOf('reverse')}`}
                    held={holdsReverse}
                    disabled={!hasPosition}
                    act={once(`${contract.code} reverse`, 'reverse', () => void reverse(ground, plan?.id ?? null))}
                    name="reverse"
                />
            </header>
            <p className="flex flex-none justify-between text-figure tabular-nums" data-part="headline">
                <b data-field="position">{position?.words ?? 'Flat'}</b>
                {hasPosition ? (
                    <Figure money={open} className="font-mono" data-field="open">
                        {signed(open)} {contract.currency}
                    </Figure>
                ) : (
                    <b className="font-mono text-soft" data-field="open">
                        —
                    </b>
                )}
            </p>
            <dl
                className={clsx(
                    'grid flex-none grid-cols-[auto_1fr_auto_auto] gap-x-6 gap-y-1 text-usual whitespace-nowrap',
                    ROOMY,
                    // Where there is little room, rows of dashes leave theirs to what helps before an entry.
                    !hasPosition && '[@container_cards_(max-height:640px)]:hidden',
                )}
            >
                <dt>Average</dt>
                <dd className={DD} data-field="average">
                    {position?.average_words ?? '—'}
                </dd>
                <dt className="pl-4">Protected</dt>
                <dd
                    data-field="protected"
                    data-alarm={(hasPosition && bare > 0) || undefined}
                    className={clsx(
                        DD,
                        hasPosition && bare > 0 && 'bg-amber px-8 py-2 text-on-amber [@container_cards_(max-height:640px)]:py-0',
                    )}
                >
                    {hasPosition ? `${position.protected} of ${lots}` : '—'}
                </dd>
                {bare === 0 && (
                    <>
                        <dt className="col-span-3">{WORDS.riskFromHere}</dt>
                        <dd className={DD}>
                            {hasPosition ? (position.unprotected > 0 ? 'no limit' : plain(position.risk_from_here)) : '—'}
                        </dd>
                    </>
                )}
                <dt>Locked in</dt>
                <dd className={DD}>{hasPosition ? signed(position.locked_in) : '—'}</dd>
                <dt className="pl-4" title={bare > 0 ? undefined : WORDS.riskFromEntry}>
                    {bare > 0 ? 'Risk' : 'Risk from entry'}
                </dt>
                <dd className={DD}>{hasPosition ? (position.unprotected > 0 ? 'no limit' : plain(position.open_risk)) : '—'}</dd>
            </dl>
            {hasPosition && bare === 0 && position.unstopped_by_plan > 0 && (
                <p className="flex-none text-soft" data-field="no-stop">
                    {WORDS.noStopByPlan(position.unstopped_by_plan)}
                </p>
            )}
            {hasPosition && bare > 0 && (
                <div
                    className="flex flex-none flex-col gap-4 rounded-card border-3 border-loss bg-amber px-10 py-6 text-alarm font-bold text-on-amber [@container_cards_(max-height:640px)]:gap-1 [@container_cards_(max-height:640px)]:py-1"
                    role="alert"
                    data-field="alarm"
                >
                    <b>
                        {countLots(bare)} unprotected{leftBehind > 0 && WORDS.beyondLimit}
                    </b>
                    {leftBehind > 0 && (
                        <OrderButton
                            label={WORDS.closeAtTheMarket(countLots(leftBehind))}
                            keyName={`hold ${closeKey}`}
                            held={holdsClose}
                            act={once(`${contract.code} close`, 'close', () => closeFirstPortion(ground))}
                            name="close-left-behind"
                        />
                    )}
                    {plan && (
                        <OrderButton
                            label={WORDS.cover(countLots(bare), plan.document.name)}
                            keyName={coverKey}
                            act={() => void cover(ground, plan.id)}
                            name="cover"
                        />
                    )}
                </div>
            )}
            {hasPosition && (
                <Portions position={position} contract={contract} named={bare === 0 ? plan?.document.name : undefined}>
                    {plan && bare === 0 && (
                        <OrderButton
                            tone="tiny"
                            label={`Protect with ${plan.document.name}`}
                            keyName={coverKey}
                            act={() => void cover(ground, plan.id)}
                            name="cover"
                        />
                    )}
                    <OrderButton
                        tone="tiny"
                        label="Remove plan"
                        keyName={`hold ${uncoverKey}`}
                        held={holdsUncover}
                        act={() => void cover(ground, null)}
                        name="uncover"
                    />
                </Portions>
            )}
            <OrderButton
                tone="strong"
                // Whatever the card has to say, the way out does not scroll away.
                className="sticky -bottom-5 z-line flex-none"
                label={position?.flattening ? WORDS.flattening(lots) : hasPosition ? `Flatten ${lots} · ≈ ${signed(open)}` : 'Flatten'}
                keyName={`hold ${useKeyOf('flatten')}`}
                held={holdsFlatten}
                disabled={!hasPosition && working === 0}
                act={() => void flatten(ground)}
                name="flatten"
            />
            <div className="grid flex-none grid-cols-[4fr_5fr] gap-6">
                <OrderButton
                    tone="row"
                    label="Break-even"
                    keyName={useKeyOf('break-even')}
                    disabled={!hasPosition}
                    act={() => void breakEven(ground)}
                    name="break-even"
                />
                <OrderButton
                    tone="row"
                    label="Break-even + fees"
                    keyName={useKeyOf('break-even-fees')}
                    disabled={!hasPosition}
                    act={() => void breakEven(ground, true)}
                    name="break-even-fees"
                />
            </div>
            <Closer contract={contract.code} disabled={!hasPosition} />
            <div className="grid flex-none grid-cols-2 gap-6">
                <OrderButton
                    tone="row"
                    label="Half off"
                    keyName={`hold ${useKeyOf('half-off')}`}
                    held={holdsHalf}
                    disabled={lots < 2}
                    act={once(`${contract.code} half off`, 'half off', () => void halfOff(ground))}
                    name="half-off"
                />
                <OrderButton
                    tone="row"
                    label="Cancel all"
                    keyName={`hold ${useKeyOf('cancel-all')}`}
                    held={holdsCancel}
                    disabled={working === 0}
                    act={() => void cancelAll(ground)}
                    name="cancel-all"
                />
            </div>
        </Card>
    );
}

/** The open P/L in what else the trader counts in. */
function OpenWords({ words: { ticks, percent, r } }: { words: Position['open_words'] }) {
    const shown = usePnlShown();
    return (
        <b className="font-mono text-ink tabular-nums" data-field="open-words">
            {[ticks, shown.percent && percent, shown.r && r].filter(Boolean).join(' · ')}
        </b>
    );
}
