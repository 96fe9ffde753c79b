import * as z from 'zod/mini';
import type { Step } from '@/stream/columns';
import { createKept } from '@/ui/kept';

/** How much time the depth history can show, in ms. */
export const SPANS = [10_000, 30_000, 60_000, 180_000, 600_000, 1_800_000, 3_600_000] as const;

interface HistoryView {
    /** ms from the left edge to the right one */
    span: number;
    /** how far back the right edge lies, in ms; 0 is the present */
    back: number;
    /** lots at which the ink fills a row; null follows the market */
    full: number | null;
    /** fewer lots than this are not drawn */
    least: number;
    /** ticks from the best price that the sums above the lanes count */
    within: number;
    /** whose fills are marked: all, those of exits that followed their plan, those sent by hand, or those of other programs */
    fills: 'all' | 'plan' | 'hand' | 'imported' | 'none';
}

const lots = z.int().check(z.nonnegative());

/** Each visit begins at the present. */
export const useHistoryView = createKept<HistoryView>(
    'history',
    {
        span: z.literal([...SPANS]),
        full: z.nullable(lots.check(z.positive())),
        least: lots,
        within: lots,
        fills: z.enum(['all', 'plan', 'hand', 'imported', 'none']),
    },
    { span: 180_000, back: 0, full: null, least: 0, within: 10, fills: 'all' },
);

export const setHistory = (part: Partial<HistoryView>): void => useHistoryView.setState(part);

/** One span longer or shorter. */
export function zoomTime(by: number): void {
    const { span } = useHistoryView.getState();
    const at = SPANS.findIndex((candidate) => candidate >= span);
    setHistory({ span: SPANS[Math.max(0, Math.min(SPANS.length - 1, at + by))] ?? span });
}

export const scrollBack = (back: number): void => setHistory({ back: Math.max(0, back) });

/** The length of column that a span is drawn with: some hundreds of them fill the picture. */
export const stepFor = (span: number): Step => (span <= 60_000 ? 250 : span <= 900_000 ? 2000 : 15_000);

export const spanWords = (ms: number): string =>
    ms < 60_000 ? `${ms / 1000} s` : ms < 3_600_000 ? `${Math.round(ms / 6000) / 10} min` : '1 h';
