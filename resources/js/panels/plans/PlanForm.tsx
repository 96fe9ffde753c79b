import type { Contract, PlanStudy } from '@/api/client';
import { writeExact } from '@/model/prices';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Group } from '@/ui/Group';
import { FIELD } from '@/ui/looks';
import { Select } from '@/ui/Select';
import { TextField } from '@/ui/TextField';
import { DistanceField, TicksOrDistance } from './DistanceField';
import {
    type PlanDocument,
    type PortionDocument,
    ratchetsOf,
    type Scope,
    stopOf,
    withPart,
    withPortion,
    withRatchets,
    withStop,
} from './document';
import { edit, useEditor } from './state';
import { WORDS } from './words';

/** A share to begin with, in percent. */
const HALF = 50;
const NUMBER = `${FIELD} w-54 font-mono text-usual leading-[normal]`;
const PART = 'inline-flex flex-wrap items-center gap-4 border-l-2 border-rule pl-6';

type Point = NonNullable<PlanStudy['portions'][number]['stop']>;

export function pointWords(point: Point | null | undefined, contract: Contract, unrounded?: string | null): string {
    if (!point) return '';
    return WORDS.point(unrounded ?? '', Math.abs(point.ticks), point.price, writeExact(point.money, contract.minor_unit));
}

function StopPart({ plan, scope, study, contract }: { plan: PlanDocument; scope: Scope; study: PlanStudy | null; contract: Contract }) {
    const stop = stopOf(plan, scope);
    const of =
        study?.portions[
            scope === 'plan'
                ? Math.max(
                      0,
                      plan.portions.findIndex((portion) => !portion.stop),
                  )
                : scope
        ];
    return (
        <Group legend="Stop" look="ruled" className="flex flex-col items-start gap-4">
            <Checkbox
                checked={stop !== null}
                name="has-stop"
                set={(isChecked) => edit(withStop(isChecked ? plan : { ...plan, ratchets: [] }, scope, isChecked ? { ticks: 8 } : null))}
            >
                protected by a stop
            </Checkbox>
            {stop && (
                <>
                    <DistanceField
                        name="stop"
                        label="Stop, distance"
                        value={stop}
                        change={(distance) =>
                            edit(
                                withStop(plan, scope, {
                                    ...distance,
                                    ...(stop.kind === 'stop-limit' && { kind: stop.kind, limit_ticks: stop.limit_ticks ?? 2 }),
                                }),
                            )
                        }
                        means={pointWords(of?.stop, contract, of?.unrounded.stop)}
                    />
                    <label>
                        fills{' '}
                        <Select
                            className="field-sizing-content"
                            value={stop.kind ?? 'stop'}
                            data-name="stop-kind"
                            onChange={(event) => {
                                const { kind: _kind, limit_ticks: _ticks, ...distance } = stop;
                                edit(
                                    withStop(
                                        plan,
                                        scope,
                                        event.target.value === 'stop' ? distance : { ...distance, kind: 'stop-limit', limit_ticks: 2 },
                                    ),
                                );
                            }}
                        >
                            <option value="stop">at the market (stop)</option>
                            <option value="stop-limit">{WORDS.upToLimit}</option>
                        </Select>
                    </label>
                    {stop.kind === 'stop-limit' && (
                        <label>
                            limit{' '}
                            <input
                                className={NUMBER}
                                type="number"
                                min={0}
                                value={stop.limit_ticks ?? 0}
                                data-name="limit-ticks"
                                onChange={(event) =>
                                    edit(withStop(plan, scope, { ...stop, limit_ticks: Number.parseInt(event.target.value, 10) || 0 }))
                                }
                            />{' '}
                            ticks beyond it
                        </label>
                    )}
                </>
            )}
        </Group>
    );
}

function RatchetPart({ plan, scope, study }: { plan: PlanDocument; scope: Scope; study: PlanStudy | null }) {
    const ratchets = ratchetsOf(plan, scope);
    const of =
        study?.portions[
            scope === 'plan'
                ? Math.max(
                      0,
                      plan.portions.findIndex((portion) => !portion.ratchets),
                  )
                : scope
        ];
    const change = (index: number, to: Partial<(typeof ratchets)[number]>) =>
        edit(
            withRatchets(
                plan,
                scope,
                ratchets.map((ratchet, at) => (at === index ? { ...ratchet, ...to } : ratchet)),
            ),
        );
    const last = ratchets[ratchets.length - 1];
    const next = typeof last?.at === 'number' ? last.at + 4 : 6;
    return (
        <Group legend={WORDS.ratchets} look="ruled" className="flex flex-col items-start gap-4">
            {ratchets.map((ratchet, index) => {
                const means = of?.ratchets[index];
                return (
                    <div className={`${PART} [&>small]:basis-full`} key={index}>
                        <span>at +</span>
                        <TicksOrDistance
                            name={`ratchet-${index + 1}-at`}
                            label={WORDS.ratchetAt(index + 1)}
                            value={ratchet.at}
                            change={(at) => change(index, { at })}
                        />
                        <Select
                            className="field-sizing-content"
                            aria-label={WORDS.ratchetDoes(index + 1)}
                            data-name={`ratchet-${index + 1}-does`}
                            value={ratchet.trail === undefined ? (ratchet.lock === 'fees' ? 'fees' : 'lock') : 'trail'}
                            onChange={(event) =>
                                edit(
                                    withRatchets(
                                        plan,
                                        scope,
                                        ratchets.map((other, at) =>
                                            at !== index
                                                ? other
                                                : event.target.value === 'trail'
                                                  ? { at: other.at, trail: 6, by: 1 }
                                                  : { at: other.at, lock: event.target.value === 'fees' ? 'fees' : 0 },
                                        ),
                                    ),
                                )
                            }
                        >
                            <option value="lock">lock</option>
                            <option value="fees">lock fees</option>
                            <option value="trail">trail</option>
                        </Select>
                        {ratchet.trail !== undefined ? (
                            <>
                                <TicksOrDistance
                                    name={`ratchet-${index + 1}-trail`}
                                    label={WORDS.ratchetTrail(index + 1)}
                                    value={ratchet.trail}
                                    change={(trail) => change(index, { trail })}
                                />
                                <span>in jumps of</span>
                                <TicksOrDistance
                                    name={`ratchet-${index + 1}-by`}
                                    label={WORDS.ratchetBy(index + 1)}
                                    value={ratchet.by ?? 1}
                                    change={(by) => change(index, { by })}
                                />
                            </>
                        ) : (
                            ratchet.lock !== 'fees' && (
                                <LockField
                                    name={`ratchet-${index + 1}-lock`}
                                    value={ratchet.lock ?? 0}
                                    change={(lock) => change(index, { lock })}
                                />
                            )
                        )}
                        <Button
                            tone="text"
                            aria-label={WORDS.removeRatchet(index + 1)}
                            onClick={() =>
                                edit(
                                    withRatchets(
                                        plan,
                                        scope,
                                        ratchets.filter((_, at) => at !== index),
                                    ),
                                )
                            }
                        >
                            ×
                        </Button>
                        {means && (
                            <small className="font-mono text-small leading-[normal] text-soft">
                                from {means.at.price}: stop {means.stop.price} ({means.stop.ticks > 0 ? '+' : ''}
                                {means.stop.ticks})
                            </small>
                        )}
                    </div>
                );
            })}
            <Button
                tone="small"
                disabled={stopOf(plan, scope) === null}
                onClick={() => edit(withRatchets(plan, scope, [...ratchets, { at: next, lock: 0 }]))}
            >
                Add a ratchet
            </Button>
        </Group>
    );
}

/** A lock can lie on the losing side too: whole ticks with a sign. */
function LockField({ name, value, change }: { name: string; value: number | object; change: (lock: number) => void }) {
    return (
        <input
            className={NUMBER}
            type="number"
            aria-label={WORDS.ticksLocked}
            data-name={name}
            value={typeof value === 'number' ? value : ''}
            placeholder="distance"
            onChange={(event) => event.target.value !== '' && change(Number.parseInt(event.target.value, 10) || 0)}
        />
    );
}

function PortionPart({ plan, index, study, contract }: { plan: PlanDocument; index: number; study: PlanStudy | null; contract: Contract }) {
    const portion = plan.portions[index] as PortionDocument;
    const isLast = index === plan.portions.length - 1;
    const of = study?.portions[index];
    const own = portion.stop !== undefined || portion.ratchets !== undefined;
    return (
        <div className={PART}>
            <b>{index + 1}</b>
            {isLast ? (
                <span>the rest</span>
            ) : (
                <PortionSize index={index} portion={portion} put={(sized) => edit(withPart(plan, index, sized))} />
            )}
            <Select
                className="field-sizing-content"
                aria-label={WORDS.portionTarget(index + 1)}
                data-name={`portion-${index + 1}-ends`}
                value={portion.target ? 'target' : 'runs'}
                onChange={(event) => edit(withPortion(plan, index, { target: event.target.value === 'runs' ? null : { ticks: 10 } }))}
            >
                <option value="target">target</option>
                <option value="runs">runs</option>
            </Select>
            {portion.target && (
                <DistanceField
                    name={`portion-${index + 1}-target`}
                    label={WORDS.targetOfPortion(index + 1)}
                    value={portion.target}
                    change={(target) => edit(withPortion(plan, index, { target }))}
                    means={pointWords(of?.target, contract, of?.unrounded.target)}
                />
            )}
            <Checkbox
                checked={own}
                name={`portion-${index + 1}-own`}
                set={(isOwn) => {
                    const { stop: _stop, ratchets: _ratchets, ...rest } = portion;
                    const portions = plan.portions.map((other, at) =>
                        at === index ? (isOwn ? { ...rest, stop: plan.stop ?? { ticks: 8 }, ratchets: plan.ratchets } : rest) : other,
                    );
                    edit({ ...plan, portions });
                    useEditor.setState({ scope: isOwn ? index : 'plan' });
                }}
            >
                own stop and ratchets
            </Checkbox>
            {plan.portions.length > 1 && (
                <Button
                    tone="text"
                    aria-label={WORDS.removePortion(index + 1)}
                    onClick={() => {
                        edit(closed({ ...plan, portions: plan.portions.filter((_, at) => at !== index) }));
                        useEditor.setState({ scope: 'plan' });
                    }}
                >
                    ×
                </Button>
            )}
        </div>
    );
}

/** In lots, or as a share of whatever is ordered. */
function PortionSize({ index, portion, put }: { index: number; portion: PortionDocument; put: (portion: PortionDocument) => void }) {
    const { lots, percent, ...of } = portion;
    const by = percent === undefined ? 'lots' : 'percent';
    return (
        <span className="flex items-center gap-4">
            <input
                className={NUMBER}
                type="number"
                min={1}
                max={by === 'percent' ? 99 : undefined}
                value={percent ?? lots ?? 1}
                data-name={`portion-${index + 1}-lots`}
                aria-label={by === 'percent' ? WORDS.portionPercent(index + 1) : WORDS.portionLots(index + 1)}
                onChange={(event) => put({ [by]: Number.parseInt(event.target.value, 10) || 1, ...of })}
            />
            <Select
                className="field-sizing-content"
                aria-label={WORDS.portionSizedBy(index + 1)}
                data-name={`portion-${index + 1}-by`}
                value={by}
                onChange={(event) => put(event.target.value === 'percent' ? { percent: HALF, ...of } : { lots: 1, ...of })}
            >
                <option value="lots">lots</option>
                <option value="percent">% of the order</option>
            </Select>
        </span>
    );
}

/** The last portion takes the rest, the others have lots or a share. */
function closed(plan: PlanDocument): PlanDocument {
    const last = plan.portions.length - 1;
    return {
        ...plan,
        portions: plan.portions.map(({ lots, percent, rest: _rest, ...portion }, at) =>
            at === last ? { rest: true, ...portion } : { ...(percent === undefined ? { lots: lots ?? 1 } : { percent }), ...portion },
        ),
    };
}

/** Everything of a plan as typed values. */
export function PlanForm({ study, contract }: { study: PlanStudy | null; contract: Contract }) {
    const plan = useEditor((editor) => editor.plan);
    const scope = useEditor((editor) => editor.scope);
    return (
        <form className="flex flex-col gap-8" aria-label="The plan in values" onSubmit={(event) => event.preventDefault()}>
            <label>
                Name{' '}
                <TextField
                    className="font-mono text-usual"
                    maxLength={60}
                    value={plan.name}
                    data-name="plan-name"
                    onChange={(event) => edit({ ...plan, name: event.target.value })}
                />
            </label>
            <StopPart plan={plan} scope={scope} study={study} contract={contract} />
            <RatchetPart plan={plan} scope={scope} study={study} />
            <Group legend={WORDS.portions} look="ruled" className="flex flex-col items-start gap-4">
                {plan.portions.map((_, index) => (
                    <PortionPart key={index} plan={plan} index={index} study={study} contract={contract} />
                ))}
                <Button
                    tone="small"
                    disabled={plan.portions.length === 20}
                    onClick={() => edit(closed({ ...plan, portions: [...plan.portions, { target: null }] }))}
                >
                    Add a portion
                </Button>
            </Group>
            <Group legend="How it works" look="ruled" className="flex flex-col items-start gap-4">
                <label>
                    Measure profit by{' '}
                    <Select
                        className="field-sizing-content"
                        value={plan.watch}
                        data-name="watch"
                        onChange={(event) => edit({ ...plan, watch: event.target.value as PlanDocument['watch'] })}
                    >
                        <option value="last">the last trade</option>
                        <option value="exit-quote">{WORDS.exitQuote}</option>
                    </Select>
                </label>
                <label>
                    It covers{' '}
                    <Select
                        className="field-sizing-content"
                        value={plan.covers}
                        data-name="covers"
                        onChange={(event) => edit({ ...plan, covers: event.target.value as PlanDocument['covers'] })}
                    >
                        <option value="entry">{WORDS.coversEntry}</option>
                        <option value="position">the whole position</option>
                    </Select>
                </label>
                <label>
                    The first target{' '}
                    <Select
                        className="field-sizing-content"
                        value={plan.after_target}
                        data-name="after-target"
                        onChange={(event) => edit({ ...plan, after_target: event.target.value as PlanDocument['after_target'] })}
                    >
                        <option value="cancel-entry">{WORDS.cancelsEntry}</option>
                        <option value="keep-entry">keeps it working</option>
                    </Select>
                </label>
            </Group>
        </form>
    );
}

export function SampleRow({ contract, contracts }: { contract: Contract; contracts: Contract[] }) {
    const sample = useEditor((editor) => editor.sample);
    const set = (change: Partial<typeof sample>) => useEditor.setState({ sample: { ...sample, ...change } });
    return (
        <p className="mb-4 flex items-center gap-10 whitespace-nowrap">
            Sample{' '}
            <Select
                className="field-sizing-content"
                aria-label="Sample, side"
                value={sample.side}
                data-name="sample-side"
                onChange={(event) => set({ side: event.target.value as 'buy' | 'sell' })}
            >
                <option value="buy">buy</option>
                <option value="sell">sell</option>
            </Select>
            <input
                className={NUMBER}
                type="number"
                min={1}
                max={10000}
                aria-label="Sample, lots"
                value={sample.quantity}
                data-name="sample-quantity"
                onChange={(event) => set({ quantity: Math.max(1, Number.parseInt(event.target.value, 10) || 1) })}
            />
            <Select
                className="field-sizing-content"
                aria-label="Sample, contract"
                value={sample.contract}
                data-name="sample-contract"
                onChange={(event) => set({ contract: event.target.value, price: '' })}
            >
                {contracts.map((candidate) => (
                    <option key={candidate.code}>{candidate.code}</option>
                ))}
            </Select>
            at{' '}
            <TextField
                className="w-90 text-usual"
                inputMode="decimal"
                aria-label="Sample, price"
                placeholder="last trade"
                value={sample.price}
                data-name="sample-price"
                onChange={(event) => set({ price: event.target.value })}
            />
            <small className="font-mono text-small leading-[normal] text-soft">
                {WORDS.oneTickIs(contract.tick_size, contract.tick_value, contract.currency)}
            </small>
        </p>
    );
}
