import * as z from 'zod/mini';
import type { Bars } from '@/api/client';
import { createKept } from '@/ui/kept';

/** What ends a bar, and the sizes that are offered for it. */
export const SIZES: Record<Bars['by'], number[]> = {
    time: [10, 30, 60, 120, 180, 300, 600, 900, 1800, 3600],
    trades: [25, 50, 100, 250, 500],
    volume: [50, 100, 250, 500, 1000],
    range: [4, 6, 8, 12, 20],
};

export const sizeWords = (by: Bars['by'], size: number): string => {
    if (by === 'time') return size < 60 ? `${size} s` : size < 3600 ? `${size / 60} min` : '1 h';
    return `${size} ${{ trades: 'trades', volume: 'lots', range: 'ticks' }[by]}`;
};

interface BarsView {
    by: Bars['by'];
    size: number;
    /** pixels from one bar to the next */
    width: number;
}

/** Pixels from one bar to the next, the narrowest and the widest. */
const [LEAST_WIDTH, MAX_WIDTH] = [2, 60];

export const useBarsView = createKept<BarsView>(
    'bars',
    {
        by: z.enum(['time', 'trades', 'volume', 'range']),
        size: z.int().check(z.positive()),
        width: z.number().check(z.minimum(LEAST_WIDTH), z.maximum(MAX_WIDTH)),
    },
    { by: 'time', size: 60, width: 8 },
);

export const setBars = (part: Partial<BarsView>): void => useBarsView.setState(part);
