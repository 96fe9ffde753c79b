import clsx from 'clsx';
import type { NoiseSide } from '@/api/client';
import { useNoise } from '@/api/queries';
import { useChoices } from '@/model/choices';
import { useNoiseMinutes } from '@/model/noise';
import { NoiseMinutes } from './NoiseMinutes';
import { WORDS } from './words';

const SIDES = [
    ['buy', 'Buy'],
    ['sell', 'Sell'],
] as const;

/** Is the stop inside the noise? What came first of entries tried under this plan on what has just traded. */
export function NoiseTable() {
    const account = useChoices((choices) => choices.account?.id);
    const contract = useChoices((choices) => choices.code);
    const lots = useChoices((choices) => choices.lots);
    const document = useChoices((choices) => choices.plans.find((candidate) => candidate.id === choices.plan)?.document ?? null);
    const { minutes } = useNoiseMinutes();
    const noise = useNoise({ account, contract, document, quantity: Math.max(lots, 1), minutes });
    const figures = noise?.by_stop[0];
    if (document === null) return null;
    return (
        <table
            className="w-full text-tiny leading-14 tabular-nums tight:group-data-position/cards:hidden snug:hidden"
            data-part="noise"
            title={noise ? WORDS.noise(noise.minutes, noise.every, noise.needed) : undefined}
        >
            {noise && figures && (
                <caption className="caption-bottom text-left text-soft" data-field="noise-tried">
                    {WORDS.tried(figures.buy.cases, figures.sell.cases, noise.every)}
                </caption>
            )}
            <thead className="text-soft">
                <tr className="[&>th]:text-right [&>th]:font-normal">
                    <th className="text-left!">
                        <NoiseMinutes className="p-0! text-tiny" kept={noise?.covered_minutes} />
                    </th>
                    <th>stop first</th>
                    <th>even</th>
                    <th>target first</th>
                    <th>{WORDS.afterFees}</th>
                </tr>
            </thead>
            <tbody>
                {SIDES.map(([side, label]) => (
                    <Side key={side} name={side} label={label} of={figures?.[side]} />
                ))}
            </tbody>
        </table>
    );
}

function Side({ name, label, of }: { name: string; label: string; of: NoiseSide | undefined }) {
    const percent = (count: number | null | undefined) => (typeof count === 'number' ? `${count} %` : '—');
    return (
        <tr
            data-side={name}
            data-enough={of?.enough}
            className={clsx('[&>td]:text-right [&>td]:font-mono', of?.enough === false && 'text-soft opacity-70')}
        >
            <th scope="row" className="text-left font-normal">
                {of ? WORDS.cases(label, of.open) : label}
            </th>
            <td data-field="noise-stop">{percent(of?.stop_percent)}</td>
            <td data-field="noise-even">{percent(of?.break_even_percent)}</td>
            <td data-field="noise-target">{percent(of?.target_percent)}</td>
            <td data-field="noise-average" title={of && of.running > 0 ? WORDS.running(of.running) : undefined}>
                {of?.average_ticks ?? '—'}
            </td>
        </tr>
    );
}
