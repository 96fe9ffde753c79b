import { Switch as Radix } from 'radix-ui';
import { type ReactNode, useId } from 'react';

interface Props {
    /** what goes on while it is on */
    children: ReactNode;
    on: boolean;
    set: (on: boolean) => void;
    /** for tests and tools */
    name?: string;
}

/** What is on or off from the press on. */
export function Switch({ children, on, set, name }: Props) {
    const id = useId();
    return (
        <span className="inline-flex items-start gap-6">
            <Radix.Root
                id={id}
                checked={on}
                onCheckedChange={set}
                data-name={name}
                className="mt-2 flex h-15 w-26 flex-none cursor-pointer items-center rounded-full border border-soft bg-field px-1 data-[state=checked]:border-ink data-[state=checked]:bg-ink"
            >
                <Radix.Thumb className="block size-11 rounded-full bg-soft data-[state=checked]:translate-x-11 data-[state=checked]:bg-raised" />
            </Radix.Root>
            <label htmlFor={id}>{children}</label>
        </span>
    );
}
