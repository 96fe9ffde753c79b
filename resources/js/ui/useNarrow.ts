import { useSyncExternalStore } from 'react';

/** A ladder with its lanes has no room below this width. */
const narrow = window.matchMedia('(max-width: 699px)');

const watch = (tell: () => void) => {
    narrow.addEventListener('change', tell);
    return () => narrow.removeEventListener('change', tell);
};

/** Whether the screen is one for the hand. */
export const useNarrow = (): boolean => useSyncExternalStore(watch, () => narrow.matches);
