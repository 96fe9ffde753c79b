import { useEffect, useState } from 'react';
import { chosenContract, useChoices } from '@/desk/choices';
import { useDesk } from '@/stream/store';

/** The market's time, which stands while the engine is away, and the hours of the contract on the ladder. */
export function Clock() {
    const [shown, setShown] = useState('--:--:--');
    const session = useChoices((choices) => chosenContract(choices)?.session);
    const allDay = session?.open === '00:00' && session.close === '24:00' && session.days.length === 7;
    useEffect(() => {
        const tick = () => {
            const { clock, feed } = useDesk.getState();
            if (clock && feed === 'live') setShown(new Date(clock.at + performance.now() - clock.heard).toISOString().slice(11, 19));
        };
        const timer = window.setInterval(tick, 250);
        return () => window.clearInterval(timer);
    }, []);
    return (
        <span className="clock" data-field="clock">
            <time>{shown}</time> UTC{session && (allDay ? ' · trades round the clock' : ` · ${session.open}–${session.close} ${session.zone}`)}
        </span>
    );
}
