import clsx from 'clsx';
import { lastMinutes, NOISE_MINUTES, useNoiseMinutes } from '@/model/noise';
import { Select } from '@/ui/Select';
import { WORDS } from './words';

interface Props {
    /** how many of the minutes are kept; undefined while that is not known */
    kept: number | undefined;
    className?: string;
}

/** How far back entries are tried, for the order card and the plan editor alike. */
export function NoiseMinutes({ kept, className }: Props) {
    const { minutes } = useNoiseMinutes();
    return (
        <Select
            className={clsx('field-sizing-content', className)}
            aria-label={WORDS.lookBack}
            data-name="noise-minutes"
            value={minutes}
            onChange={(event) => useNoiseMinutes.setState({ minutes: Number(event.target.value) })}
        >
            {NOISE_MINUTES.map((count) => (
                <option key={count} value={count}>
                    {lastMinutes(count, count === minutes ? (kept ?? count) : count)}
                </option>
            ))}
        </Select>
    );
}
