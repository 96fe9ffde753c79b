import clsx from 'clsx';
import type { ComponentProps } from 'react';

/** Money gained or lost in its colour; the sign in front of it says the same. */
export function Figure({ money, className, ...rest }: ComponentProps<'b'> & { money: string }) {
    return <b className={clsx(money.startsWith('-') ? 'text-loss' : 'text-gain', className)} {...rest} />;
}
