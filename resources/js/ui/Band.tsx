import clsx from 'clsx';
import type { CSSProperties, ReactNode } from 'react';

const TONES = {
    sand: '[--tone:var(--color-sand)]',
    moss: '[--tone:var(--color-moss)]',
    slate: '[--tone:var(--color-slate)]',
    clay: '[--tone:var(--color-clay)]',
};

interface Props {
    /** null while it is being marked */
    tone: keyof typeof TONES | null;
    /** where it lies, in pixels */
    style: CSSProperties;
    /** what stands inside, at its left edge */
    children?: ReactNode;
    /** the band beside the bars has less room for its name */
    short?: boolean;
    /** for tests and tools */
    level?: string;
}

/** A marked level as a wash over the rows of a price axis. */
export function Band({ tone, style, children, short = false, level }: Props) {
    return (
        <div
            className={clsx(
                'pointer-events-none absolute inset-x-0 z-line border-y border-(--tone) bg-[color-mix(in_srgb,var(--tone)_13%,transparent)]',
                TONES[tone ?? 'sand'],
                tone === null && 'border-dashed',
            )}
            data-part="level-band"
            data-level={level}
            style={style}
        >
            {children && (
                <span
                    className={clsx(
                        'absolute top-1 left-4 truncate rounded-chip bg-raised px-4 text-tiny leading-15',
                        short
                            ? 'max-w-138'
                            : // In the half of the sell lane that is free of chips: the prices and the money beside it stay readable.
                              'max-w-250 @max-[640px]/slot:right-116 @max-[640px]/slot:left-auto @max-[560px]/slot:right-86 @max-[560px]/slot:max-w-104 @max-[430px]/slot:right-4',
                    )}
                >
                    {children}
                </span>
            )}
        </div>
    );
}
