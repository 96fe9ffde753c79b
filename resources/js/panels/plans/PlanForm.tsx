import type { Contract, PlanStudy } from '@/api/client';
import { Button } from '@/ui/Button';
import { Group } from '@/ui/Group';
import { Select } from '@/ui/Select';
import { TextField } from '@/ui/TextField';
import { closed, type PlanDocument } from './document';
import { PortionPart } from './PortionPart';
import { RatchetPart } from './RatchetPart';
import { StopPart } from './StopPart';
import { edit, useEditor } from './state';
import { WORDS } from './words';

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
