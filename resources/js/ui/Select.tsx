import clsx from 'clsx';
import type { ComponentProps } from 'react';
import { FIELD } from './looks';

/**
 * The browser's own list in the kit's look: it is found by typing, is one stop of the Tab key, loses no keystroke, and works
 * in a window of a panel's own.
 */
export function Select({ className, ...rest }: ComponentProps<'select'>) {
    return <select className={clsx(FIELD, className)} {...rest} />;
}
