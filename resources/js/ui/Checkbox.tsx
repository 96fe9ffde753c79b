import { Checkbox as Box } from 'radix-ui';
import { type ReactNode, useId } from 'react';

interface Props {
    /** what is true where it is checked */
    children: ReactNode;
    checked: boolean;
    set: (checked: boolean) => void;
    disabled?: boolean;
    name?: string;
}

export function Checkbox({ children, checked, set, disabled, name }: Props) {
    const id = useId();
    return (
        <span className="inline-flex items-start gap-6">
            <Box.Root
                id={id}
                checked={checked}
                disabled={disabled}
                onCheckedChange={(to) => set(to === true)}
                data-name={name}
                className="mt-3 size-13 flex-none rounded-chip border border-soft bg-field disabled:opacity-50 data-[state=checked]:border-ink data-[state=checked]:bg-ink"
            >
                <Box.Indicator asChild>
                    <svg viewBox="0 0 12 12" className="fill-none stroke-raised stroke-2" aria-hidden="true">
                        <path d="M2.5 6.2 5 8.7 9.5 3.5" />
                    </svg>
                </Box.Indicator>
            </Box.Root>
            <label htmlFor={id}>{children}</label>
        </span>
    );
}
