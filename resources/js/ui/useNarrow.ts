import { useSyncExternalStore } from 'react';
import { create } from 'zustand';

/** A ladder with its lanes has no room below this width. */
const narrow = window.matchMedia('(max-width: 699px)');
/** A mouse at a narrow window: the letters have been made larger, and this is no screen for the hand. */
const fine = window.matchMedia('(pointer: fine)');

const useWhole = create<{ wanted: boolean }>(() => ({ wanted: false }));

const watch = (tell: () => void) => {
    const watched = [narrow, fine];
    for (const query of watched) query.addEventListener('change', tell);
    const stop = useWhole.subscribe(tell);
    return () => {
        for (const query of watched) query.removeEventListener('change', tell);
        stop();
    };
};

/** Whether the page is that for the hand. */
export const useNarrow = (): boolean => useSyncExternalStore(watch, () => narrow.matches && !(fine.matches && useWhole.getState().wanted));

/** The whole desk in a window that is too narrow for it: it scrolls. null where the screen is one for the hand. */
export const useShowWhole = (): (() => void) | null => {
    const isFine = useSyncExternalStore(watch, () => fine.matches);
    return isFine ? () => useWhole.setState({ wanted: true }) : null;
};
