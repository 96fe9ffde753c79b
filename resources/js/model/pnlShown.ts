import * as z from 'zod/mini';
import type { Position } from '@/api/client';
import { createKept } from '@/ui/kept';
import type { Lines } from './prices';

interface Shown {
    /** what the last column of the ladder counts in */
    unit: keyof Lines;
    /** beside the open P/L */
    percent: boolean;
    r: boolean;
}

/** What profit and loss are counted in, beside money. */
export const usePnlShown = createKept<Shown>(
    'pnl',
    { unit: z.enum(['money', 'ticks', 'percent']), percent: z.boolean(), r: z.boolean() },
    { unit: 'money', percent: false, r: true },
);

export const linesOf = (position: Position): Lines => ({
    money: position.pnl,
    ticks: position.pnl_ticks,
    percent: position.pnl_percent,
});
