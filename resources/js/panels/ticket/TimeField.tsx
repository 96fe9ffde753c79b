import type { UseFormRegisterReturn } from 'react-hook-form';
import type { TypedMoment } from '@/model/moments';
import { TextField } from '@/ui/TextField';
import { LABEL } from './looks';
import { WORDS } from './words';

interface TimeFieldProps {
    label: string;
    means: TypedMoment;
    /** a date and time from the browser's own picker */
    pick: (at: string) => void;
}

/** Typed as a trader says it, or picked; what it means in the trader's zone stands below. */
export function TimeField({ label, means, pick, name, ...field }: TimeFieldProps & UseFormRegisterReturn) {
    return (
        <div className={LABEL}>
            <label htmlFor={`ticket-${name}`}>{label}</label>
            <span className="flex items-center gap-2">
                <TextField
                    id={`ticket-${name}`}
                    className="w-full"
                    placeholder="15:00, +90m"
                    title={WORDS.howTimesAreTyped}
                    name={name}
                    {...field}
                    data-name={name}
                />
                <input
                    className="w-18 flex-none border-0 bg-transparent [&::-webkit-datetime-edit]:hidden"
                    type="datetime-local"
                    tabIndex={-1}
                    aria-label={WORDS.pickTime(label)}
                    onChange={(event) => pick(event.target.value.replace('T', ' '))}
                />
            </span>
            {means.words !== '' && (
                <small className={means.words === null ? 'bg-amber px-4 text-on-amber' : ''} data-means={name}>
                    {means.words ?? WORDS.noSuchTime}
                </small>
            )}
        </div>
    );
}
