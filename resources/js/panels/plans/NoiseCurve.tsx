import { scaleLinear } from 'd3-scale';
import type { NoiseSide } from '@/api/client';
import { useNoise } from '@/api/queries';
import { useChoices } from '@/model/choices';
import { useNoiseMinutes } from '@/model/noise';
import { NoiseMinutes } from '@/panels/nextOrder/NoiseMinutes';
import { DRAWING } from './lines';
import { useEditor } from './state';
import { WORDS } from './words';

const WIDTH = 600;
const HEIGHT = 120;
const LEFT = 88;
const RIGHT = 470;
const TOP = 14;
const BOTTOM = 78;

type Share = 'stop_percent' | 'break_even_percent' | 'target_percent';

const LINES: [share: Share, words: string, stroke: string, text: string][] = [
    ['stop_percent', WORDS.stopFirst, 'stroke-loss', 'fill-loss'],
    ['target_percent', WORDS.targetFirst, 'stroke-gain', 'fill-gain'],
    ['break_even_percent', WORDS.evenFirst, 'stroke-soft [stroke-dasharray:3_3]', 'fill-soft'],
];

/** Where the words of the lines stand at their right ends: as high as the line, but never one over the other, nor below all lines. */
function places(ends: number[]): number[] {
    const found = [...ends];
    const order = ends.map((_, line) => line).sort((a, b) => (ends[b] as number) - (ends[a] as number));
    order.forEach((line, rank) => {
        if (rank > 0) found[line] = Math.min(found[line] as number, (found[order[rank - 1] as number] as number) - 12);
    });
    return found;
}

/** Would another stop have stood outside the noise? What came first by the distance of the stop, all else as in the plan. */
export function NoiseCurve() {
    const account = useChoices((choices) => choices.account?.id);
    const plan = useEditor((editor) => editor.plan);
    const sample = useEditor((editor) => editor.sample);
    const { minutes } = useNoiseMinutes();
    const noise = useNoise({ account, contract: sample.contract, document: plan, quantity: sample.quantity, minutes, byStop: true });
    const points = noise?.by_stop.map((point) => ({ ...point, side: point[sample.side] as NoiseSide })) ?? [];
    const first = points[0];
    const last = points[points.length - 1];
    const x = scaleLinear([first?.stop ?? 0, Math.max(last?.stop ?? 1, (first?.stop ?? 0) + 1)], [LEFT + 20, RIGHT]);
    const y = scaleLinear([0, 100], [BOTTOM, TOP]);
    const ends = places(LINES.map(([share]) => y(last?.side[share] ?? 0)));
    return (
        <section className="mb-8" aria-label={WORDS.noiseTitle} data-part="noise-curve">
            <p className="mb-4 flex items-center gap-8">
                <b className="flex-none">{WORDS.noiseTitle}</b>
                <NoiseMinutes className="flex-none" kept={noise?.covered_minutes} />
                <span className="text-small text-soft" data-field="noise-cases">
                    {noise && first
                        ? WORDS.noiseCases(first.side.cases, noise.every, sample.side, first.side.enough ? null : noise.needed)
                        : ''}
                </span>
            </p>
            {noise && points.length === 0 && <p className="text-small text-soft">{WORDS.noStopNoNoise}</p>}
            {points.length > 0 && (
                <svg className={DRAWING} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={WORDS.noiseDrawn}>
                    {[0, 50, 100].map((percent) => (
                        <g key={percent}>
                            <line className="stroke-rule" x1={LEFT} x2={RIGHT} y1={y(percent)} y2={y(percent)} />
                            <text className="fill-soft" x={LEFT - 4} y={y(percent) + 4} textAnchor="end">
                                {percent} %
                            </text>
                        </g>
                    ))}
                    {LINES.map(([share, words, stroke, text], line) => (
                        <g key={share} className={first?.side.enough ? undefined : 'opacity-50'}>
                            <path
                                className={`fill-none stroke-2 ${stroke}`}
                                d={points
                                    .map((point, i) => `${i === 0 ? 'M' : 'L'}${x(point.stop ?? 0)} ${y(point.side[share] ?? 0)}`)
                                    .join('')}
                            />
                            <text className={text} x={RIGHT + 6} y={(ends[line] as number) + 4}>
                                {words}
                            </text>
                        </g>
                    ))}
                    {points.map((point) => (
                        <g key={point.stop} data-stop={point.stop} data-own={point.own}>
                            {point.own && (
                                <line
                                    className="stroke-exit stroke-2"
                                    x1={x(point.stop ?? 0)}
                                    x2={x(point.stop ?? 0)}
                                    y1={TOP - 8}
                                    y2={BOTTOM}
                                />
                            )}
                            <text
                                className={point.own ? 'fill-exit font-bold' : 'fill-soft'}
                                x={x(point.stop ?? 0)}
                                y={BOTTOM + 16}
                                textAnchor="middle"
                            >
                                {point.stop}
                            </text>
                            <text x={x(point.stop ?? 0)} y={BOTTOM + 32} textAnchor="middle" className="fill-ink">
                                {point.side.average_ticks ?? '—'}
                            </text>
                        </g>
                    ))}
                    <text className="fill-soft" x={8} y={BOTTOM + 16}>
                        {WORDS.stopTicks}
                    </text>
                    <text className="fill-soft" x={8} y={BOTTOM + 32}>
                        {WORDS.netTicks}
                    </text>
                </svg>
            )}
        </section>
    );
}
