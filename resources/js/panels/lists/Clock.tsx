import { useEffect, useState } from 'react';
import { useChoices } from '@/model/choices';
import { deskNow, useDesk } from '@/stream/store';
import { WORDS } from './words';

/** A moment in the trader's own zone. */
const here = (iso: string): string =>
    new Date(iso).toLocaleString('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit', timeZoneName: 'short' });

/** The market's time, which stands while the engine is away, and the hours of the contract on the ladder, in the title alone where that is to be brief. */
export function Clock({ brief }: { brief: boolean }) {
    const code = useChoices((choices) => choices.code);
    const [shown, setShown] = useState('--:--:--');
    const hours = useDesk((desk) => desk.hours[desk.feed === 'opening' ? '' : code]);
    useEffect(() => {
        const tick = () => {
            const { clock, feed } = deskNow();
            if (clock && feed === 'live') setShown(new Date(clock.at + performance.now() - clock.heard).toISOString().slice(11, 19));
        };
        const timer = window.setInterval(tick, 250);
        return () => window.clearInterval(timer);
    }, []);
    return (
        <span
            className="text-small text-soft"
            data-field="clock"
            title={hours && WORDS.hours(hours.words, hours.until && here(hours.until))}
        >
            <time className="font-mono text-ink tabular-nums">{shown}</time>
            {!brief && ' UTC'}
            {!brief && hours && ` · ${hours.brief}`}
        </span>
    );
}
