import { useMemo } from 'react';
import { deskNow, useDesk } from '@/stream/store';
import { readMoment } from './readMoment';

/** The market's time, ms since 1970 UTC. */
export function marketNow(): number {
    const { clock } = deskNow();
    return clock === null ? Date.now() : clock.at + performance.now() - clock.heard;
}

const closeOf = (until: string | null | undefined): number | null => (until ? Date.parse(until) : null);

/** What was typed as the API takes it; as it is where it cannot be read, so that the server says what is wrong. */
export function isoOf(typed: string, contract: string): string {
    const hours = deskNow().hours[contract];
    const at = readMoment(typed, marketNow(), hours?.open ? closeOf(hours.until) : null);
    return at === null ? typed : new Date(at).toISOString();
}

export interface TypedMoment {
    /** as the API takes it; empty where nothing was typed */
    iso: string;
    /** what it means in the trader's own zone; null where it cannot be read */
    words: string | null;
}

/** Read once, as it was typed: "+90m" counts from then, and the words beside it go on saying the same. */
export function useMoment(typed: string, contract: string): TypedMoment {
    const until = useDesk((desk) => (desk.hours[contract]?.open ? desk.hours[contract]?.until : null));
    return useMemo(() => {
        if (typed.trim() === '') return { iso: '', words: '' };
        const at = readMoment(typed, marketNow(), closeOf(until));
        if (at === null) return { iso: typed, words: null };
        const words = new Date(at).toLocaleString('en-GB', {
            weekday: 'short',
            day: 'numeric',
            month: 'short',
            year: new Date(at).getFullYear() === new Date(marketNow()).getFullYear() ? undefined : 'numeric',
            hour: '2-digit',
            minute: '2-digit',
            timeZoneName: 'short',
        });
        return { iso: new Date(at).toISOString(), words };
    }, [typed, until]);
}
