import { useSyncExternalStore } from 'react';
import { create } from 'zustand';

/** A ladder with its lanes has no room below this width. */
const narrow = window.matchMedia('(max-width: 699px)');
/** Without a finger at a narrow window the letters have been made larger, and this is no screen for the hand. */
const finger = window.matchMedia('(pointer: coarse)');

const useWhole = create<{ wanted: boolean }>(() => ({ wanted: false }));

const watch = (tell: () => void) => {
    const watched = [narrow, finger];
    for (const query of watched) query.addEventListener('change', tell);
    const stop = useWhole.subscribe(tell);
    return () => {
        for (const query of watched) query.removeEventListener('change', tell);
        stop();
    };
};

/** Whether the page is that for the hand. */
export const useNarrow = (): boolean =>
    useSyncExternalStore(watch, () => narrow.matches && (finger.matches || !useWhole.getState().wanted));

/** The whole desk in a window that is too narrow for it: it scrolls. null where the screen is one for the hand. */
export const useShowWhole = (): (() => void) | null => {
    const isForHands = useSyncExternalStore(watch, () => finger.matches);
    return isForHands ? null : () => useWhole.setState({ wanted: true });
};
