import { useCallback, useEffect, useRef, useState } from 'react';
import { RUNG_HEIGHT } from '@/model/rungHeight';
import { keepRungs, rungsOf } from '@/model/rungs';
import type { Book } from '@/stream/store';
import { SETTLE_MS } from '@/ui/settle';

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
    /** the middle of the market; null until it is known */
    market: number | null;
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
    const [view, setView] = useState<{ code: string; centre: number | null }>({ code, centre: rungsOf(code).centre });
    const [isHeld, setHeld] = useState(false);
    const [isSettled, setSettled] = useState(false);
    const market = middleOf(book);
    const centre = view.code === code ? view.centre : rungsOf(code).centre;
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
        (by: number) =>
            setView((old) => {
                const from = old.code === code ? old.centre : rungsOf(code).centre;
                return from === null ? old : { code, centre: from + by * zoom };
            }),
        [code, zoom],
    );

    useEffect(() => {
        if (market === null) return;
        if (centre === null || (!isHeld && Math.abs(market - centre) > (rows * zoom) / 6)) moveTo(market);
    }, [market, centre, isHeld, rows, zoom, moveTo]);

    useEffect(() => {
        if (centre !== null) keepRungs(code, { centre });
    }, [code, centre]);

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

    // A ladder that grows or shrinks does so at its foot: the rungs that are there stay where they are.
    const isMeasured = useRef(false);
    const fit = useRef((_rows: number) => {});
    fit.current = (now) => {
        setRows(now);
        if (isMeasured.current && now !== rows && centre !== null) moveTo(centre + (Math.floor(rows / 2) - Math.floor(now / 2)) * zoom);
        isMeasured.current = true;
    };
    const observer = useRef<ResizeObserver | null>(null);
    const measure = useCallback((element: HTMLElement | null) => {
        observer.current?.disconnect();
        if (element === null) return;
        observer.current = new ResizeObserver(() => {
            // Out of sight it has no height, and stays as it is.
            if (element.clientHeight > 0) fit.current(Math.max(5, Math.floor(element.clientHeight / RUNG_HEIGHT)));
        });
        observer.current.observe(element);
    }, []);

    return {
        rows,
        top,
        off: centre === null || market === null ? 0 : market - centre,
        hold: setHeld,
        isHeld,
        market,
        recentre,
        centreOn: moveTo,
        scroll,
        isSettled: isSettled && settled.current === place,
        measure,
    };
}
