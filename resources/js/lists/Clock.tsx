import { useEffect, useState } from 'react';
import { useDesk } from '@/stream/store';

/** The engine's time, which stands while it is away. */
export function Clock() {
    const [shown, setShown] = useState('--:--:--');
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
            <time>{shown}</time> UTC
        </span>
    );
}
