import clsx from 'clsx';
import { Slider as Radix } from 'radix-ui';

interface Props {
    label: string;
    value: number;
    /** it begins at 0 */
    most: number;
    set: (value: number) => void;
    /** for tests and tools */
    name: string;
    className?: string;
}

export function Slider({ label, value, most, set, name, className }: Props) {
    return (
        <Radix.Root
            min={0}
            max={Math.max(1, most)}
            disabled={most === 0}
            value={[value]}
            onValueChange={([to = 0]) => set(to)}
            className={clsx('relative flex h-18 cursor-pointer touch-none items-center', className)}
        >
            <Radix.Track className="h-4 w-full rounded-chip bg-rule">
                <Radix.Range className="absolute h-4 rounded-chip bg-ink" />
            </Radix.Track>
            <Radix.Thumb aria-label={label} data-name={name} className="block size-14 rounded-full border-2 border-ink bg-raised" />
        </Radix.Root>
    );
}
