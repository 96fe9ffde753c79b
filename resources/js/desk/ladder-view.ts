import { useCallback, useEffect, useRef, useState } from 'react';
import type { Book } from '@/stream/store';
import { SETTLE_MS } from '@/ui/settle';

const HEIGHTS = 'lotrik.rung-height';

/** Pixels from one rung to the next; chosen in the settings, and read once: nothing may move under the pointer. */
export const RUNG_HEIGHT = Number(localStorage.getItem(HEIGHTS)) || 18;
document.documentElement.style.setProperty('--rung', `${RUNG_HEIGHT}px`);

/** The desk is drawn anew with it. */
export function setRungHeight(height: number): void {
    localStorage.setItem(HEIGHTS, String(height));
    location.reload();
}

/** Ticks that one rung can stand for. */
export const ZOOMS = [1, 2, 5, 10, 25] as const;

const middleOf = (book: Book | undefined): number | null => {
    if (!book) return null;
    if (book.bestBid !== null && book.bestAsk !== null) return Math.floor((book.bestBid + book.bestAsk) / 2);
    return book.last?.price ?? book.bestBid ?? book.bestAsk;
};

interface LadderView {
    rows: number;
    /** the highest tick of the top rung; null until the market is known */
    top: number | null;
    /** how far the market is from the middle of what is shown, in ticks: up is positive */
    off: number;
    hold: (held: boolean) => void;
    isHeld: boolean;
    recentre: () => void;
    /** puts a tick into the middle */
    centreOn: (tick: number) => void;
    /** by so many rungs, up is positive */
    scroll: (by: number) => void;
    /** false while the rungs have only just moved: then they take no order */
    isSettled: boolean;
    measure: (element: HTMLElement | null) => void;
}

/** Which rungs are shown: standing still under the pointer, following the market in thirds when it is elsewhere. */
export function useLadderView(code: string, book: Book | undefined, zoom: number): LadderView {
    const [rows, setRows] = useState(30);
    const [view, setView] = useState<{ code: string; centre: number | null }>({ code, centre: null });
    const [isHeld, setHeld] = useState(false);
    const [isSettled, setSettled] = useState(false);
    const market = middleOf(book);
    const centre = view.code === code ? view.centre : null;
    const latest = useRef(market);
    latest.current = market;

    const moveTo = useCallback(
        (tick: number | null) => {
            setView({ code, centre: tick });
        },
        [code],
    );
    const recentre = useCallback(() => moveTo(latest.current), [moveTo]);
    const scroll = useCallback(
        (by: number) => setView((old) => (old.code === code && old.centre !== null ? { code, centre: old.centre + by * zoom } : old)),
        [code, zoom],
    );

    useEffect(() => {
        if (market === null) return;
        if (centre === null || (!isHeld && Math.abs(market - centre) > (rows * zoom) / 6)) moveTo(market);
    }, [market, centre, isHeld, rows, zoom, moveTo]);

    // A rung begins at a whole multiple of its ticks.
    const top = centre === null ? null : (Math.floor(centre / zoom) + Math.floor(rows / 2)) * zoom + zoom - 1;
    const place = `${code} ${top} ${zoom}`;
    const settled = useRef('');
    if (settled.current !== place && isSettled) setSettled(false);
    useEffect(() => {
        const timer = window.setTimeout(() => {
            settled.current = place;
            setSettled(true);
        }, SETTLE_MS);
        return () => window.clearTimeout(timer);
    }, [place]);

    const observer = useRef<ResizeObserver | null>(null);
    const measure = useCallback((element: HTMLElement | null) => {
        observer.current?.disconnect();
        if (element === null) return;
        observer.current = new ResizeObserver(() => setRows(Math.max(5, Math.floor(element.clientHeight / RUNG_HEIGHT))));
        observer.current.observe(element);
    }, []);

    return {
        rows,
        top,
        off: centre === null || market === null ? 0 : market - centre,
        hold: setHeld,
        isHeld,
        recentre,
        centreOn: moveTo,
        scroll,
        isSettled: isSettled && settled.current === place,
        measure,
    };
}
