import { useEffect } from 'react';
import { create } from 'zustand';
import { say, useDesk } from '@/stream/store';
import { useSettings } from './settings';

interface OneClick {
    on: boolean;
    usedAt: number;
}

/** Whether a click on a rung sends at once (on) or makes a draft (off). Off whenever the desk is opened. */
export const useOneClick = create<OneClick>(() => ({ on: false, usedAt: 0 }));

export function turnOneClick(on: boolean, why = ''): void {
    if (useOneClick.getState().on === on) return;
    useOneClick.setState({ on, usedAt: performance.now() });
    if (why !== '') say(`One-click is off: ${why}.`);
}

export function usedOneClick(): void {
    useOneClick.setState({ usedAt: performance.now() });
}

/** Turns one-click off when the feed is not live, and after a time without use. */
export function useOneClickGuard(): void {
    const feed = useDesk((desk) => desk.feed);
    useEffect(() => {
        if (feed === 'stale' || feed === 'away') turnOneClick(false, 'the feed is not live');
    }, [feed]);
    useEffect(() => {
        const timer = window.setInterval(() => {
            const { orders, positions } = useDesk.getState();
            // Never while a position or an own order exists.
            const idle = useSettings.getState().entry.idle_minutes;
            const busy = orders.size > 0 || Object.values(positions).some((position) => position.quantity !== 0);
            if (busy) usedOneClick();
            else if (performance.now() - useOneClick.getState().usedAt > idle * 60_000) turnOneClick(false, `it was not used for ${idle} minutes`);
        }, 1000);
        return () => window.clearInterval(timer);
    }, []);
}
