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
    /** for tests and tools */
    level?: string;
}

/** A marked level as a wash over the rows of a price axis. */
export function Band({ tone, style, children, level }: Props) {
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
                        // In the sell lane where there is no history, whose width is that of ladder.css: prices and money stay readable.
                        [
                            'max-w-250 @max-[640px]/slot:right-116 @max-[640px]/slot:left-auto @max-[640px]/slot:max-w-[calc(53%-172px)]',
                            '@max-[560px]/slot:right-86 @max-[560px]/slot:max-w-[calc(52%-141px)]',
                            '@max-[430px]/slot:right-2 @max-[430px]/slot:max-w-[calc(50%-95px)] @max-[430px]/slot:px-2 @max-[430px]/slot:text-micro @max-[430px]/slot:leading-8 @max-[430px]/slot:whitespace-normal',
                        ],
                    )}
                >
                    {children}
                </span>
            )}
        </div>
    );
}
