import { FIELD } from './looks';

interface Props {
    label: string;
    value: number;
    least: number;
    most: number;
    /** what is counted */
    unit: string;
    disabled?: boolean;
    /** told of whole numbers between the two bounds alone, while they are typed */
    set: (value: number) => void;
}

/** A count with its name and its unit: `Exit offset 2 ticks`. */
export function NumberField({ label, value, least, most, unit, disabled, set }: Props) {
    return (
        <label>
            {label}{' '}
            <input
                type="number"
                className={`${FIELD} w-60`}
                value={value}
                min={least}
                max={most}
                disabled={disabled}
                onChange={(event) => event.target.validity.valid && event.target.value !== '' && set(event.target.valueAsNumber)}
            />{' '}
            {unit}
        </label>
    );
}
