/** How a screen takes its place: the top bar, then all else. In a window that is too small for it, it scrolls. */
export const SCREEN =
    'relative grid h-full max-[699px]:min-h-640 max-[699px]:min-w-700 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto] overflow-hidden';
export const MAIN = 'row-start-2 grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)]';
