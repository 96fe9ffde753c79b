import type { Preview } from '@/api/client';
import { asPlanned, isChanged, useThisOrder } from '@/model/thisOrder';
import { still } from '@/ui/still';

interface StepperProps {
    name: string;
    label: string;
    ticks: number;
    set: (ticks: number) => void;
}

function Stepper({ name, label, ticks, set }: StepperProps) {
    return (
        <span className="stepper" data-name={name}>
            <button
                type="button"
                aria-label={`${label} one tick nearer`}
                disabled={ticks <= 1}
                onMouseDown={still}
                onClick={() => set(ticks - 1)}
            >
                −
            </button>
            <span>
                {label} <b>{ticks}</b>
            </span>
            <button type="button" aria-label={`${label} one tick farther`} onMouseDown={still} onClick={() => set(ticks + 1)}>
                +
            </button>
        </span>
    );
}

/** The stop and the targets of the next order, nudged for that order only; the plan stays as it is. */
export function ThisOrderRow({ split }: { split: Preview['split'] }) {
    const state = useThisOrder();
    const stops = [
        ...new Set(split.map((portion) => portion.stop_ticks).filter((ticks): ticks is number => ticks !== null && ticks !== undefined)),
    ];
    if (stops.length === 0 && split.every((portion) => portion.target_ticks === null)) return <p className="this-order" />;
    const setTarget = (portion: number, target: number | null) =>
        useThisOrder.setState({ targets: { ...state.targets, [portion]: target } });
    return (
        <p className="this-order" data-field="this-order">
            {stops[0] !== undefined && (
                <Stepper name="stop" label="stop" ticks={stops[0]} set={(stop) => useThisOrder.setState({ stop })} />
            )}
            {split
                .filter((portion) => portion.lots > 0)
                .map((portion) =>
                    typeof portion.target_ticks === 'number' ? (
                        <span key={portion.portion} className="nudge">
                            <Stepper
                                name={`target-${portion.portion}`}
                                label={`${portion.portion}: +`}
                                ticks={portion.target_ticks}
                                set={(ticks) => setTarget(portion.portion, ticks)}
                            />
                            <button
                                type="button"
                                className="plain"
                                title={`Portion ${portion.portion} runs without a target, this order only`}
                                data-name={`runs-${portion.portion}`}
                                onMouseDown={still}
                                onClick={() => setTarget(portion.portion, null)}
                            >
                                Let it run
                            </button>
                        </span>
                    ) : null,
                )}
            {isChanged(state) && (
                <button
                    type="button"
                    className="plain"
                    data-name="as-planned"
                    title="Back to the plan as it is"
                    onMouseDown={still}
                    onClick={asPlanned}
                >
                    this order only ×
                </button>
            )}
        </p>
    );
}
