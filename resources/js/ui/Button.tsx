import clsx from 'clsx';
import type { ComponentProps } from 'react';
import { BUTTON, type ButtonTone } from './looks';
import { Tip } from './Tip';

/** A button that does not trade; see OrderButton for those that do. Its title is a tip. */
export function Button({ tone = 'usual', className, title, ...rest }: ComponentProps<'button'> & { tone?: ButtonTone }) {
    return (
        <Tip words={title}>
            <button type="button" className={clsx(BUTTON[tone], className)} aria-description={title} {...rest} />
        </Tip>
    );
}
