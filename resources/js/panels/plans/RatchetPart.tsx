import type { PlanStudy } from '@/api/client';
import { Button } from '@/ui/Button';
import { Group } from '@/ui/Group';
import { Select } from '@/ui/Select';
import { TicksOrDistance } from './DistanceField';
import { type PlanDocument, ratchetsOf, type Scope, stopOf, withRatchets } from './document';
import { NUMBER, PART } from './looks';
import { edit } from './state';
import { WORDS } from './words';

/** What tightens that stop, step by step. */
export function RatchetPart({ plan, scope, study }: { plan: PlanDocument; scope: Scope; study: PlanStudy | null }) {
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
