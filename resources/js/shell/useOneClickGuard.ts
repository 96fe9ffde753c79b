import { useEffect } from 'react';
import { allOneClickOff } from '@/model/ladders';
import { usedOneClick, useOneClick } from '@/model/oneClick';
import { useSettings } from '@/model/settings';
import { deskNow, isBroken, useDesk } from '@/stream/store';
import { WORDS } from './words';

/** Turns one-click off when the feed is not live, and after a time without use. */
export function useOneClickGuard(): void {
    const feed = useDesk((desk) => desk.feed);
    useEffect(() => {
        if (isBroken(feed)) allOneClickOff(WORDS.feedNotLive);
    }, [feed]);
    useEffect(() => {
        const timer = window.setInterval(() => {
            const { orders, positions } = deskNow();
            // Never while a position or an own order exists.
            const idle = useSettings.getState().entry.idle_minutes;
            const busy = orders.size > 0 || Object.values(positions).some((position) => position.quantity !== 0);
            if (busy) usedOneClick();
            else if (performance.now() - useOneClick.getState().usedAt > idle * 60_000) allOneClickOff(WORDS.notUsedFor(idle));
        }, 1000);
        return () => window.clearInterval(timer);
    }, []);
}
