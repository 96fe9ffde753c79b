import clsx from 'clsx';
import type { ComponentProps, ReactNode } from 'react';
import { FRAME } from './looks';

const LOOKS = {
    framed: { box: FRAME, legend: '' },
    /** under a rule */
    ruled: { box: 'border-t border-rule pt-4', legend: 'pr-6 text-small text-soft' },
} as const;

interface Props extends ComponentProps<'fieldset'> {
    legend: ReactNode;
    look?: keyof typeof LOOKS;
}

/** Fields that belong together, under their name. */
export function Group({ legend, look = 'framed', className, children, ...rest }: Props) {
    return (
        <fieldset className={clsx(LOOKS[look].box, className)} {...rest}>
            <legend className={LOOKS[look].legend}>{legend}</legend>
            {children}
        </fieldset>
    );
}
