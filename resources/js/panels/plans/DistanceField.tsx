import { useEffect, useState } from 'react';
import { Problem } from '@/api/client';
import { typedNumber } from '@/model/typedNumber';
import { FIELD } from '@/ui/looks';
import { Select } from '@/ui/Select';
import { BARS, type Distance, UNITS, type Unit, unitOf } from './document';
import { inUnit } from './inUnit';
import { WORDS } from './words';

interface Props {
    name: string;
    label: string;
    value: Distance;
    change: (value: Distance) => void;
    /** what PHP made of it: ticks, price and money */
    means?: string;
}

/** A distance with its unit; whatever the unit, what it means in ticks, price and money stands beside it. */
export function DistanceField({ name, label, value, change, means }: Props) {
    const unit = unitOf(value);
    const shown = String(value[unit] ?? '');
    const [text, setText] = useState(shown);
    useEffect(() => setText(shown), [shown]);
    // Nothing is typed between the question and its answer.
    const [isAsking, setAsking] = useState(false);

    const write = (typed: string, as: Unit): Distance => {
        if (as === 'ticks') return { ticks: Number.parseInt(typed, 10) || 1 };
        const number = typedNumber(typed);
        return as === 'atr' ? { atr: number, bar: value.bar ?? '1m', length: value.length ?? 14 } : { [as]: number };
    };

    return (
        <span className="inline-flex flex-wrap items-center gap-4">
            <input
                className={`${FIELD} w-54 font-mono`}
                type={unit === 'ticks' ? 'number' : 'text'}
                inputMode="decimal"
                min={1}
                aria-label={label}
                disabled={isAsking}
                data-name={name}
                value={text}
                onChange={(event) => {
                    setText(event.target.value);
                    if (event.target.value !== '') change(write(event.target.value, unit));
                }}
            />
            <Select
                className="field-sizing-content"
                aria-label={`${label}, unit`}
                disabled={isAsking}
                data-name={`${name}-unit`}
                value={unit}
                onChange={(event) => {
                    const written = write(text, event.target.value as Unit);
                    setAsking(true);
                    inUnit(value, written)
                        .then(change)
                        // What cannot be measured yet keeps its figures.
                        .catch((error: Error) => (error instanceof Problem ? change(written) : Promise.reject(error)))
                        .finally(() => setAsking(false));
                }}
            >
                {UNITS.map(([id, words]) => (
                    <option key={id} value={id}>
                        {words}
                    </option>
                ))}
            </Select>
            {unit === 'atr' && (
                <>
                    <Select
                        className="field-sizing-content"
                        aria-label={`${label}, bars`}
                        value={value.bar ?? '1m'}
                        onChange={(event) => change({ ...value, bar: event.target.value })}
                    >
                        {BARS.map((bar) => (
                            <option key={bar}>{bar}</option>
                        ))}
                    </Select>
                    <input
                        className={`${FIELD} w-54 font-mono`}
                        type="number"
                        min={1}
                        max={200}
                        aria-label={WORDS.barCount(label)}
                        value={value.length ?? 14}
                        onChange={(event) => change({ ...value, length: Number.parseInt(event.target.value, 10) || 14 })}
                    />
                </>
            )}
            {means && (
                <small className="font-mono text-small leading-[normal] text-soft" data-means={name}>
                    {means}
                </small>
            )}
        </span>
    );
}

/** A ratchet's value: whole ticks stay a bare number in the document. */
export function TicksOrDistance({
    value,
    change,
    ...props
}: Omit<Props, 'value' | 'change'> & { value: number | Distance; change: (value: number | Distance) => void }) {
    return (
        <DistanceField
            {...props}
            value={typeof value === 'number' ? { ticks: value } : value}
            change={(distance) => change(distance.ticks === undefined ? distance : distance.ticks)}
        />
    );
}
