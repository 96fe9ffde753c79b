import type { Contract, PlanStudy } from '@/api/client';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Select } from '@/ui/Select';
import { DistanceField } from './DistanceField';
import { closed, type PlanDocument, type PortionDocument, withPart, withPortion } from './document';
import { NUMBER, PART } from './looks';
import { pointWords } from './pointWords';
import { edit, useEditor } from './state';
import { WORDS } from './words';

/** A share to begin with, in percent. */
const HALF = 50;

/** One part of the lots: how many, its target, and whether it has a stop of its own. */
export function PortionPart({
    plan,
    index,
    study,
    contract,
}: {
    plan: PlanDocument;
    index: number;
    study: PlanStudy | null;
    contract: Contract;
}) {
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
