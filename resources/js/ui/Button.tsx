import clsx from 'clsx';
import type { ComponentProps } from 'react';
import { BUTTON, type ButtonTone } from './looks';

/** A button that does not trade; see OrderButton for those that do. */
export function Button({ tone = 'usual', className, ...rest }: ComponentProps<'button'> & { tone?: ButtonTone }) {
    return <button type="button" className={clsx(BUTTON[tone], className)} {...rest} />;
}
