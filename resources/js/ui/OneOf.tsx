import { ToggleGroup } from 'radix-ui';
import type { ReactNode, Ref, WheelEventHandler } from 'react';

interface Props {
    label: string;
    /** which of them is chosen */
    value: string;
    /** one of them always is: a second press on it changes nothing */
    set: (value: string) => void;
    /** each a `Choice` */
    children: ReactNode;
    className?: string;
    /** for tests and tools */
    name?: string;
    ref?: Ref<HTMLDivElement>;
    onWheel?: WheelEventHandler;
}

/** One of several that stand beside each other: one stop of the Tab key, walked by the arrow keys. */
export function OneOf({ label, value, set, name, ...rest }: Props) {
    return (
        <ToggleGroup.Root type="single" aria-label={label} value={value} onValueChange={(to) => to && set(to)} data-part={name} {...rest} />
    );
}

/** One of them. */
export const Choice = ToggleGroup.Item;
