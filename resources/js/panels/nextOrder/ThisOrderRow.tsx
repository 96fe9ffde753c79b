import clsx from 'clsx';
import type { Preview } from '@/api/client';
import { asPlanned, isChanged, useThisOrder } from '@/model/thisOrder';
import { Button } from '@/ui/Button';
import { WORDS } from './words';

const ROW = 'flex min-h-20 flex-wrap items-center gap-x-8 gap-y-2 text-small';

interface StepperProps {
    name: string;
    label: string;
    ticks: number;
    set: (ticks: number) => void;
}

function Stepper({ name, label, ticks, set }: StepperProps) {
    return (
        <span className="inline-flex items-center gap-3 tabular-nums" data-name={name}>
            <Button tone="step" aria-label={WORDS.nearer(label)} disabled={ticks <= 1} onClick={() => set(ticks - 1)}>
                −
            </Button>
            <span>
                {label} <b className="font-mono">{ticks}</b>
            </span>
            <Button tone="step" aria-label={WORDS.farther(label)} onClick={() => set(ticks + 1)}>
                +
            </Button>
        </span>
    );
}

/** The stop and the targets of the next order, nudged for that order only; the plan stays as it is. */
export function ThisOrderRow({ split }: { split: Preview['split'] }) {
    const state = useThisOrder();
    const stops = [
        ...new Set(split.map((portion) => portion.stop_ticks).filter((ticks): ticks is number => ticks !== null && ticks !== undefined)),
    ];
    if (stops.length === 0 && split.every((portion) => portion.target_ticks === null))
        return <p className={clsx(ROW, 'short:hidden')} data-part="this-order" />;
    const setTarget = (portion: number, target: number | null) =>
        useThisOrder.setState({ targets: { ...state.targets, [portion]: target } });
    return (
        // Where there is little room the plan as it is needs none; what departs from it is never out of sight.
        <p className={clsx(ROW, !isChanged(state) && 'short:hidden')} data-part="this-order" data-field="this-order">
            {stops[0] !== undefined && (
                <Stepper name="stop" label="stop" ticks={stops[0]} set={(stop) => useThisOrder.setState({ stop })} />
            )}
            {split
                .filter((portion) => portion.lots > 0)
                .map((portion) =>
                    typeof portion.target_ticks === 'number' ? (
                        <span key={portion.portion}>
                            <Stepper
                                name={`target-${portion.portion}`}
                                label={`${portion.portion}: +`}
                                ticks={portion.target_ticks}
                                set={(ticks) => setTarget(portion.portion, ticks)}
                            />
                            <Button
                                tone="text"
                                title={WORDS.runsThisOrder(portion.portion)}
                                data-name={`runs-${portion.portion}`}
                                onClick={() => setTarget(portion.portion, null)}
                            >
                                Let it run
                            </Button>
                        </span>
                    ) : null,
                )}
            {isChanged(state) && (
                <Button tone="text" data-name="as-planned" title={WORDS.backToPlan} onClick={asPlanned}>
                    this order only ×
                </Button>
            )}
        </p>
    );
}
