import { scaleLinear } from 'd3-scale';
import type { AccountDay } from '@/api/client';
import { WORDS } from './words';

const WIDTH = 820;
const HEIGHT = 150;
const LEFT = 70;
const PAD = 14;

const clock = (at: number): string => new Date(at).toISOString().slice(11, 16);

interface Props {
    day: AccountDay;
    /** money as it is written */
    write: (amount: string) => string;
}

/** How the day went: what had closed, in steps, and with what was open; the loss limit where the day came near it. */
export function DayCurve({ day, write }: Props) {
    const { line } = day;
    const first = line[0];
    const last = line[line.length - 1];
    if (!first || !last) return <p className="text-soft">{WORDS.nothingDrawn}</p>;
    const nets = line.map((point) => Number(point.net));
    const limit = Number(day.loss_limit);
    const seen = [...nets, ...line.map((point) => Number(point.closed)), Number(day.best?.money ?? 0), Number(day.worst?.money ?? 0), 0];
    const isNear = Math.min(...seen) <= -limit / 2;
    const [low, high] = [Math.min(...seen, isNear ? -limit : 0), Math.max(...seen)];
    const x = scaleLinear([first.at, Math.max(last.at, first.at + 1)], [LEFT, WIDTH - PAD]);
    const y = scaleLinear([low, high === low ? low + 1 : high], [HEIGHT - 26, PAD]).nice(4);
    const closed = line.map((point, i) => `${i === 0 ? 'M' : 'H'}${x(point.at)}${i === 0 ? ' ' : 'V'}${y(Number(point.closed))}`).join('');
    const open = line.map((point, i) => `${i === 0 ? 'M' : 'L'}${x(point.at)} ${y(Number(point.net))}`).join('');
    return (
        <svg
            className="w-full rounded-card border border-rule bg-paper [&_text]:font-mono [&_text]:text-tiny"
            viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
            role="img"
            aria-label={WORDS.drawn}
            data-part="day-curve"
        >
            {y.ticks(4).map((money) => (
                <g key={money}>
                    <line
                        className={money === 0 ? 'stroke-soft [stroke-dasharray:3_3]' : 'stroke-rule'}
                        x1={LEFT}
                        x2={WIDTH - PAD}
                        y1={y(money)}
                        y2={y(money)}
                    />
                    <text className="fill-soft" x={LEFT - 6} y={y(money) + 4} textAnchor="end">
                        {money}
                    </text>
                </g>
            ))}
            {isNear && (
                <g>
                    <line
                        className="stroke-loss stroke-2 [stroke-dasharray:6_3]"
                        x1={LEFT}
                        x2={WIDTH - PAD}
                        y1={y(-limit)}
                        y2={y(-limit)}
                    />
                    <text className="fill-loss" x={WIDTH - PAD} y={y(-limit) - 4} textAnchor="end">
                        {WORDS.lossLimit(write(day.loss_limit).replace(/^\+/, ''))}
                    </text>
                </g>
            )}
            <path className="fill-none stroke-soft" d={closed} />
            <path className="fill-none stroke-ink stroke-2" d={open} />
            {[day.best, day.worst].map(
                (seenAt) =>
                    seenAt && (
                        <circle
                            key={seenAt.money}
                            className="fill-raised stroke-ink stroke-2"
                            cx={x(Date.parse(seenAt.at))}
                            cy={y(Number(seenAt.money))}
                            r={3}
                        />
                    ),
            )}
            <text className="fill-soft" x={LEFT} y={HEIGHT - 6}>
                {clock(first.at)}
            </text>
            <text className="fill-soft" x={WIDTH - PAD} y={HEIGHT - 6} textAnchor="end">
                {clock(last.at)}
            </text>
        </svg>
    );
}
