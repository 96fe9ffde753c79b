import clsx from 'clsx';
import type { ComponentProps } from 'react';
import { FIELD } from './looks';

/**
 * The browser's own list in the kit's look: it is found by typing, is one stop of the Tab key, loses no keystroke, and works
 * in a window of a panel's own. A plain one is a word among words.
 */
export function Select({ look = 'field', className, ...rest }: ComponentProps<'select'> & { look?: 'field' | 'plain' }) {
    return <select className={clsx(look === 'field' && FIELD, className)} {...rest} />;
}
