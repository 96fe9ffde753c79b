import clsx from 'clsx';
import { Toolbar as Radix } from 'radix-ui';
import type { ComponentProps } from 'react';
import { BUTTON, type ButtonTone } from './looks';
import { Tip } from './Tip';

/** Tools side by side: one stop of the Tab key, walked by the arrow keys to the left and right. */
export function Toolbar({ label, ...rest }: ComponentProps<typeof Radix.Root> & { label: string }) {
    return <Radix.Root aria-label={label} {...rest} />;
}

/** One of its buttons. */
export function Tool({ tone = 'tool', className, title, ...rest }: ComponentProps<typeof Radix.Button> & { tone?: ButtonTone }) {
    return (
        <Tip words={title}>
            <Radix.Button type="button" className={clsx(BUTTON[tone], className)} aria-description={title} {...rest} />
        </Tip>
    );
}
