import type { Contract, PlanStudy } from '@/api/client';
import { Checkbox } from '@/ui/Checkbox';
import { Group } from '@/ui/Group';
import { Select } from '@/ui/Select';
import { DistanceField } from './DistanceField';
import { type PlanDocument, type Scope, stopOf, withStop } from './document';
import { NUMBER } from './looks';
import { pointWords } from './pointWords';
import { edit } from './state';
import { WORDS } from './words';

/** The stop of the plan, or a portion's own. */
export function StopPart({
    plan,
    scope,
    study,
    contract,
}: {
    plan: PlanDocument;
    scope: Scope;
    study: PlanStudy | null;
    contract: Contract;
}) {
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
