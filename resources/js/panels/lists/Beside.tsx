import clsx from 'clsx';
import type { ReactNode } from 'react';

/** In a narrow panel the choices stand in a row above; with still less room one list stands below the other. */
const GRIDS = {
    1: 'grid-cols-[auto_minmax(0,1fr)] @max-[1080px]/list:grid-cols-[minmax(0,1fr)] @max-[1080px]/list:grid-rows-[auto_minmax(0,1fr)]',
    2: [
        'grid-cols-[auto_minmax(0,1fr)_minmax(0,1fr)]',
        '@max-[1080px]/list:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] @max-[1080px]/list:grid-rows-[auto_minmax(0,1fr)]',
        '@max-[840px]/list:grid-cols-[minmax(0,1fr)] @max-[840px]/list:grid-rows-[auto_minmax(0,2fr)_minmax(0,1fr)]',
    ].join(' '),
};

/** Choices beside one list, or two. */
export function Beside({ tools, lists, children }: { tools: ReactNode; lists: 1 | 2; children: ReactNode }) {
    return (
        <div
            className={clsx(
                'grid h-full grid-rows-[minmax(0,1fr)] gap-16 @max-[1080px]/list:gap-x-8 @max-[1080px]/list:gap-y-4',
                GRIDS[lists],
            )}
            data-part="beside"
        >
            <div className="flex flex-col gap-6 pt-4 pl-14 text-right text-small text-soft @max-[1080px]/list:col-span-full @max-[1080px]/list:flex-row @max-[1080px]/list:flex-wrap @max-[1080px]/list:gap-x-14 @max-[1080px]/list:gap-y-4">
                {tools}
            </div>
            {children}
        </div>
    );
}
