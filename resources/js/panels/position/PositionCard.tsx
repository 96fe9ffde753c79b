import type { Contract } from '@/api/client';
import { breakEven, cancelAll, closeFirstPortion, cover, flatten, halfOff, reverse } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { useIsHeld } from '@/model/held';
import { useKeyOf } from '@/model/keymap';
import { countLots, writeExact } from '@/model/prices';
import { once } from '@/model/secondPress';
import { useDesk } from '@/stream/store';
import { OrderButton } from '@/ui/OrderButton';
import { Closer } from './Closer';
import { Portions } from './Portions';

const tone = (money: string): string => (money.startsWith('-') ? 'loss' : 'gain');

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
        <section className="card" aria-label="Position">
            <header>
                <span>Position · {contract.code}</span>
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
            <p className="headline">
                <b data-field="position">{position?.words ?? 'Flat'}</b>
                <b data-field="open" className={hasPosition ? tone(open) : 'quiet'}>
                    {hasPosition ? `${signed(open)} ${contract.currency}` : '—'}
                </b>
            </p>
            <dl>
                <dt>Average</dt>
                <dd data-field="average">{position?.average_words ?? '—'}</dd>
                <dt>Protected</dt>
                <dd data-field="protected" className={hasPosition && bare > 0 ? 'alarm' : undefined}>
                    {hasPosition ? `${position.protected} of ${lots}` : '—'}
                </dd>
                <dt className="wide">Risk from here, with fees</dt>
                <dd>{hasPosition ? (position.unprotected > 0 ? 'no limit' : plain(position.risk_from_here)) : '—'}</dd>
                <dt>Locked in</dt>
                <dd>{hasPosition ? signed(position.locked_in) : '—'}</dd>
                <dt title="Risk from entry, with fees">Risk from entry</dt>
                <dd>{hasPosition ? (position.unprotected > 0 ? 'no limit' : plain(position.open_risk)) : '—'}</dd>
            </dl>
            {hasPosition && bare === 0 && position.unstopped_by_plan > 0 && (
                <p className="quiet" data-field="no-stop">
                    {position.unstopped_by_plan} without a stop, as the plan says
                </p>
            )}
            {hasPosition && bare > 0 && (
                <div className="alarm unprotected" role="alert" data-field="alarm">
                    <b>
                        {countLots(bare)} unprotected{leftBehind > 0 && ': the market is beyond the stop-limit'}
                    </b>
                    {leftBehind > 0 && (
                        <OrderButton
                            label={`Close ${countLots(leftBehind)} at the market`}
                            keyName={`hold ${closeKey}`}
                            held={holdsClose}
                            act={once(`${contract.code} close`, 'close', () => closeFirstPortion(ground))}
                            name="close-left-behind"
                        />
                    )}
                    {plan && (
                        <OrderButton
                            label={`Cover ${countLots(bare)} with ${plan.document.name}`}
                            keyName={coverKey}
                            act={() => void cover(ground, plan.id)}
                            name="cover"
                        />
                    )}
                </div>
            )}
            {hasPosition && (
                <Portions position={position} contract={contract}>
                    {plan && bare === 0 && (
                        <OrderButton
                            tone="small"
                            label={`Apply ${plan.document.name}`}
                            keyName={coverKey}
                            act={() => void cover(ground, plan.id)}
                            name="cover"
                        />
                    )}
                    <OrderButton
                        tone="small"
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
                label={position?.flattening ? `Flattening · ${lots} left` : hasPosition ? `Flatten ${lots} · ≈ ${signed(open)}` : 'Flatten'}
                keyName={`hold ${useKeyOf('flatten')}`}
                held={holdsFlatten}
                disabled={!hasPosition && working === 0}
                act={() => void flatten(ground)}
                name="flatten"
            />
            <div className="nearer">
                <OrderButton
                    tone="small"
                    label="Break-even"
                    keyName={useKeyOf('break-even')}
                    disabled={!hasPosition}
                    act={() => void breakEven(ground)}
                    name="break-even"
                />
                <OrderButton
                    tone="small"
                    label="+ fees"
                    keyName={useKeyOf('break-even-fees')}
                    disabled={!hasPosition}
                    act={() => void breakEven(ground, true)}
                    name="break-even-fees"
                />
                <Closer contract={contract.code} disabled={!hasPosition} />
            </div>
            <div className="pair steer">
                <OrderButton
                    tone="small"
                    label="Half off"
                    keyName={`hold ${useKeyOf('half-off')}`}
                    held={holdsHalf}
                    disabled={lots < 2}
                    act={once(`${contract.code} half off`, 'half off', () => void halfOff(ground))}
                    name="half-off"
                />
                <OrderButton
                    tone="small"
                    label="Cancel all"
                    keyName={`hold ${useKeyOf('cancel-all')}`}
                    held={holdsCancel}
                    disabled={working === 0}
                    act={() => void cancelAll(ground)}
                    name="cancel-all"
                />
            </div>
        </section>
    );
}
