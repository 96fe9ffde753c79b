import { scaleLinear } from 'd3-scale';
import type { SVGTextElementAttributes } from 'react';
import type { Contract, Curve } from '@/api/client';
import { useCurve } from '@/api/queries';
import { useChoices } from '@/model/choices';
import { useDesk } from '@/stream/store';
import { WORDS } from './words';

const WIDTH = 302;
const HEIGHT = 48;
const PAD = 6;
/** Where there is little room, an open position needs it more than the curve of the next order does. */
const CURVE = 'aspect-[302/48] w-full text-micro tight:group-data-position/cards:hidden snug:hidden';

/** How far to the right the curve is drawn: past its last step and its targets, but not so far that they shrink. */
function reach(curve: Curve): number {
    const stops = curve.stops;
    let last = 0;
    for (let best = 1; best < stops.length; best++) if (stops[best] !== stops[best - 1] && last < 16) last = best;
    return Math.min(stops.length - 1, Math.max(last + 4, ...curve.portions.map((portion) => (portion.target ?? 0) + 3), 10));
}

/** Where the words of a line stand: at its right, or at its left where they would be cut off. */
const beside = (x: number): SVGTextElementAttributes<SVGTextElement> => (x < WIDTH * 0.6 ? { x: x + 3 } : { x: x - 3, textAnchor: 'end' });

/** Where the stop will stand (up) for the best profit reached (across), as PHP computed it, with the present best. */
export function RatchetCurve({ contract }: { contract: Contract }) {
    const plan = useChoices((choices) => choices.plan);
    const version = useChoices((choices) => choices.plans.find((candidate) => candidate.id === choices.plan)?.version);
    const lots = useChoices((choices) => choices.lots);
    const level = useDesk((desk) => desk.books[contract.code]?.bestAsk ?? null);
    const best = useDesk((desk) => desk.positions[contract.code]?.best ?? null);
    const curve = useCurve({ plan: level === null ? null : plan, version, contract: contract.code, quantity: lots, best: 60 });

    if (plan === null || curve === null) return <div className={CURVE} />;
    const right = reach(curve);
    const shown = curve.stops.slice(0, right + 1);
    const low = Math.min(-1, ...shown);
    const high = Math.max(1, ...shown);
    const x = scaleLinear([0, right], [PAD, WIDTH - PAD]).clamp(true);
    const y = scaleLinear([low, high], [HEIGHT - PAD, PAD]);
    const path = shown.map((stop, at) => (at === 0 ? `M${x(0)} ${y(stop)}` : `H${x(at)}V${y(stop)}`)).join('');
    const now = best === null ? null : Math.min(best, right);
    const words = WORDS.curve(curve.stops[0] ?? 0, best);
    return (
        <svg className={CURVE} data-part="curve" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={words} data-field="curve">
            <title>{words}</title>
            <line className="stroke-rule" x1={PAD} x2={WIDTH - PAD} y1={y(0)} y2={y(0)} />
            {curve.portions.map(
                (portion) =>
                    portion.target !== null &&
                    portion.lots > 0 && (
                        <g key={portion.portion}>
                            <line
                                className="stroke-exit [stroke-dasharray:2_3]"
                                x1={x(portion.target)}
                                x2={x(portion.target)}
                                y1={PAD}
                                y2={HEIGHT - PAD}
                            />
                            <text className="fill-soft" {...beside(x(portion.target))} y={PAD + 7}>
                                {portion.lots} target +{portion.target}
                            </text>
                        </g>
                    ),
            )}
            {shown.length > 0 && <path className="fill-none stroke-exit stroke-2" d={path} />}
            {/* Where the line lies high, the words of targets stand at its right. */}
            <text className="fill-soft" {...(y(0) > HEIGHT / 2 ? beside(WIDTH - PAD + 3) : beside(PAD - 1))} y={y(0) + 10}>
                break-even
            </text>
            {shown.length > 0 && (
                <text className="fill-soft" x={PAD + 2} y={HEIGHT - PAD - 3}>
                    stop {curve.stops[0]}
                </text>
            )}
            {now !== null && shown.length > 0 && <circle className="fill-ink" cx={x(now)} cy={y(shown[now] ?? 0)} r="4" data-best={best} />}
        </svg>
    );
}
