import { create } from 'zustand';
import type { Bars } from '@/api/client';

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

const KEY = 'lotrik.bars';

export const useBarsView = create<BarsView>(() => ({ by: 'time', size: 60, width: 8, ...JSON.parse(localStorage.getItem(KEY) ?? '{}') }));

export function setBars(part: Partial<BarsView>): void {
    useBarsView.setState(part);
    localStorage.setItem(KEY, JSON.stringify(useBarsView.getState()));
}
