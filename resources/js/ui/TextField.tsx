import clsx from 'clsx';
import type { ComponentProps } from 'react';
import { FIELD } from './looks';

export function TextField({ className, ...rest }: ComponentProps<'input'>) {
    return <input type="text" className={clsx(FIELD, className)} {...rest} />;
}
