import { scaleLinear } from 'd3-scale';
import type { ExitPlan } from '@/api/client';
import { useCurve } from '@/api/queries';
import { EVEN, STOP, TARGET } from './lines';

const WIDTH = 84;
const HEIGHT = 30;

/** A plan's curve as a small picture. */
export function MiniCurve({ plan, contract }: { plan: ExitPlan; contract: string }) {
    const curve = useCurve({ plan: plan.id, version: plan.version, contract, quantity: 10, best: 24 });
    const stops = curve?.stops ?? [];
    const low = Math.min(-1, ...stops);
    const high = Math.max(1, ...stops);
    const x = scaleLinear([0, 24], [2, WIDTH - 2]);
    const y = scaleLinear([low, high], [HEIGHT - 2, 2]);
    return (
        <svg className="h-30 w-84 flex-none" data-part="mini-curve" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true">
            <line className={EVEN} x1={2} x2={WIDTH - 2} y1={y(0)} y2={y(0)} />
            {curve?.portions.map(
                (portion) =>
                    portion.target !== null &&
                    portion.target <= 24 && (
                        <line
                            key={portion.portion}
                            className={TARGET}
                            x1={x(portion.target)}
                            x2={x(portion.target)}
                            y1={2}
                            y2={HEIGHT - 2}
                        />
                    ),
            )}
            <path className={STOP} d={stops.map((stop, at) => (at === 0 ? `M${x(0)} ${y(stop)}` : `H${x(at)}V${y(stop)}`)).join('')} />
        </svg>
    );
}
