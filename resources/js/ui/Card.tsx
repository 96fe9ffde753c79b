import clsx from 'clsx';
import type { ComponentProps } from 'react';

/** A sheet beside the ladder. */
export function Card({ className, ...rest }: ComponentProps<'section'>) {
    return (
        <section
            className={clsx(
                'flex flex-col gap-4 rounded-card border border-rule bg-raised px-12 py-5 contain-layout contain-style',
                className,
            )}
            {...rest}
        />
    );
}
