import clsx from 'clsx';
import type { ReactNode } from 'react';
import { AXIS, LANE } from './measures';

interface Props {
    side: string;
    /** the middle of it, and as far as its line goes, in pixels */
    y: number;
    width: number;
    children: ReactNode;
}

/** What stands at a price in one of the lanes, with its line across the bars. */
export function Standing({ side, y, width, children }: Props) {
    return (
        <>
            <i className="bars-across order" style={{ top: y, width }} />
            <div
                className={clsx('standing', side === 'buy' && 'flex-row-reverse')}
                style={{ top: y, left: side === 'buy' ? width : width + LANE + AXIS }}
                data-lane={side}
            >
                {children}
            </div>
        </>
    );
}
