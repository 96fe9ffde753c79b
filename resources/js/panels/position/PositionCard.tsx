import clsx from 'clsx';
import { useEffect, useRef } from 'react';
import type { Contract, Position } from '@/api/client';
import { breakEven, cancelAll, closeFirstPortion, cover, flatten, halfOff, reverse } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { useIsHeld } from '@/model/held';
import { useKeyOf } from '@/model/keymap';
import { usePnlShown } from '@/model/pnlShown';
import { countLots, writeExact } from '@/model/prices';
import { once } from '@/model/secondPress';
import { useSide } from '@/model/useSide';
import { useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { Card } from '@/ui/Card';
import { Figure } from '@/ui/Figure';
import { OrderButton } from '@/ui/OrderButton';
import { SideList } from '@/ui/SideList';
import { Closer } from './Closer';
import { Entries } from './Entries';
import { Portions } from './Portions';
import { WORDS } from './words';

const DD = 'text-right font-mono font-semibold';
const PAIR = 'contents short:flex short:gap-4';
const SECOND = 'pl-4 short:pl-0';
/** What has no room is cut between two lines, and stands in the list to the side. */
const LINES = 'flex min-h-17 flex-[0_1_auto] flex-col flex-wrap overflow-hidden';

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
    const card = useRef<HTMLElement>(null);
    const [showsExits, setShowsExits] = useSide();
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
    const risk = (money = '0.00'): string => (!hasPosition ? '—' : position.unprotected > 0 ? WORDS.noLimit : plain(money));

    const buttons = hasPosition && (
        <>
            {plan && bare === 0 && (
                <OrderButton
                    tone="tiny"
                    label={WORDS.switchTo(plan.document.name)}
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
        </>
    );
    // The list goes with the position that it was opened for: it neither comes back with the next one nor shows another contract's.
    // biome-ignore lint/correctness/useExhaustiveDependencies: another contract closes it too
    useEffect(() => setShowsExits(false), [contract.code, hasPosition]);
    const named = bare === 0 ? plan?.document.name : undefined;

    return (
        // What protects and what closes never scrolls: the lines of the exits alone give way.
        <Card ref={card} aria-label="Position" className="short:gap-3 short:py-3">
            <div className="flex flex-none flex-col gap-4 short:flex-row short:items-center short:gap-6">
                <header className="flex items-center justify-between gap-6 text-small text-soft short:contents">
                    <span className="short:hidden">{contract.code}</span>
                    {hasPosition && <OpenWords words={position.open_words} />}
                    <OrderButton
                        tone="small"
                        className="short:order-last short:text-tiny"
                        label="Reverse"
                        keyName={`hold ${useKeyOf('reverse')}`}
                        held={holdsReverse}
                        disabled={!hasPosition}
                        act={once(`${contract.code} reverse`, 'reverse', () => void reverse(ground, plan?.id ?? null))}
                        name="reverse"
                    />
                </header>
                <p
                    className="flex flex-1 items-center justify-between gap-6 text-figure leading-[1.35] whitespace-nowrap tabular-nums short:text-title"
                    data-part="headline"
                >
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
            </div>
            <dl
                className={clsx(
                    'grid flex-none grid-cols-[auto_1fr_auto_auto] gap-x-6 gap-y-1 text-usual whitespace-nowrap',
                    'short:flex short:flex-wrap short:justify-between short:gap-y-0 short:text-tiny',
                    // Where there is little room, rows of dashes leave theirs to what helps before an entry.
                    !hasPosition && 'tight:hidden',
                )}
            >
                <div className={PAIR}>
                    <dt>Average</dt>
                    <dd className={DD} data-field="average">
                        {position?.average_words ?? '—'}
                    </dd>
                </div>
                <div className={PAIR}>
                    <dt className={SECOND}>Protected</dt>
                    <dd
                        data-field="protected"
                        data-alarm={(hasPosition && bare > 0) || undefined}
                        className={clsx(DD, hasPosition && bare > 0 && 'bg-amber px-8 py-2 text-on-amber tight:py-0')}
                    >
                        {hasPosition ? WORDS.protectedOf(position.protected, lots) : '—'}
                    </dd>
                </div>
                {bare === 0 && (
                    <div className={PAIR}>
                        <dt className="col-span-3">
                            {WORDS.riskFromHere}
                            <span className="short:hidden">{WORDS.withFees}</span>
                        </dt>
                        <dd className={DD}>{risk(position?.risk_from_here)}</dd>
                    </div>
                )}
                <div className={PAIR}>
                    <dt>Locked in</dt>
                    <dd className={DD}>{hasPosition ? signed(position.locked_in) : '—'}</dd>
                </div>
                <div className={`${PAIR} short:hidden`}>
                    <dt className={SECOND} title={bare > 0 ? undefined : WORDS.riskFromEntryMeans}>
                        {bare > 0 ? 'Risk' : WORDS.riskFromEntry}
                    </dt>
                    <dd className={DD}>{risk(position?.open_risk)}</dd>
                </div>
            </dl>
            {hasPosition && bare === 0 && position.unstopped_by_plan > 0 && (
                <p className="flex-none text-soft" data-field="no-stop">
                    {WORDS.noStopByPlan(position.unstopped_by_plan)}
                </p>
            )}
            {hasPosition && bare > 0 && (
                <div
                    className="flex flex-none flex-wrap items-center justify-between gap-x-8 gap-y-4 rounded-card border-3 border-loss bg-amber px-10 py-4 text-alarm font-bold text-on-amber tight:gap-y-1 tight:px-6 tight:py-1 tight:text-usual"
                    role="alert"
                    data-field="alarm"
                >
                    <b>
                        {countLots(bare)} unprotected{leftBehind > 0 && WORDS.beyondLimit}
                    </b>
                    {leftBehind > 0 && (
                        <OrderButton
                            tone="alarm"
                            label={WORDS.closeAtTheMarket(countLots(leftBehind))}
                            keyName={`hold ${closeKey}`}
                            held={holdsClose}
                            act={once(`${contract.code} close`, 'close', () => closeFirstPortion(ground))}
                            name="close-left-behind"
                        />
                    )}
                    {plan && (
                        <OrderButton
                            tone="alarm"
                            label={WORDS.cover(plan.document.name)}
                            keyName={coverKey}
                            act={() => void cover(ground, plan.id)}
                            name="cover"
                        />
                    )}
                </div>
            )}
            {hasPosition &&
                (position.entries.length > 1 ? (
                    <Entries position={position} contract={contract} className={LINES} />
                ) : (
                    <Portions position={position} contract={contract} named={named} className={LINES}>
                        {buttons}
                    </Portions>
                ))}
            <OrderButton
                tone="strong"
                className="flex-none short:min-h-24 short:py-1"
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
            <div className="flex flex-none gap-6">
                <Closer contract={contract.code} disabled={!hasPosition} />
                {hasPosition && (
                    <SideList
                        name="exits"
                        beside={card}
                        open={showsExits}
                        setOpen={setShowsExits}
                        trigger={
                            <Button tone="row" className="flex-none" title={WORDS.allExits} data-name="all-exits">
                                {position.entries.length > 1
                                    ? WORDS.entryByEntry(position.entries.length)
                                    : WORDS.exitByExit(position.entries[0]?.portions.length ?? 0)}
                            </Button>
                        }
                    >
                        <Portions position={position} contract={contract} named={named} className="flex flex-col gap-2">
                            {buttons}
                        </Portions>
                    </SideList>
                )}
            </div>
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
        <b className="font-mono text-ink tabular-nums short:hidden" data-field="open-words">
            {[ticks, shown.percent && percent, shown.r && r].filter(Boolean).join(' · ')}
        </b>
    );
}
