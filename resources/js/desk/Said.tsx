import clsx from 'clsx';
import { useEffect, useState } from 'react';
import { type Notice, useDesk } from '@/stream/store';
import { play, type Sound } from '@/ui/sounds';

/** How long a line stands out. */
const FRESH_MS = 7000;
const MOST = 4;

const SOUNDS: Record<string, Sound> = {
    'order-filled': 'fill',
    'stop-moved': 'stop',
    refused: 'refusal',
    'order-rejected': 'refusal',
    'account-barred': 'alarm',
    here: 'refusal',
    level: 'level',
};

/** What was just said: fills, stop moves, refusals. It has a place of its own, beside the ladder and over nothing. */
export function Said() {
    const notices = useDesk((desk) => desk.notices);
    const [fresh, setFresh] = useState<ReadonlySet<number>>(new Set());
    const spoken: Notice[] = [];
    for (const notice of notices) {
        if (notice.speaks) spoken.push(notice);
        if (spoken.length === MOST) break;
    }
    const latest = spoken[0]?.sequence;
    const sound = spoken[0] && SOUNDS[spoken[0].type];
    useEffect(() => {
        if (latest === undefined) return;
        setFresh((old) => new Set([...old, latest]));
        if (sound) play(sound);
        const timer = window.setTimeout(() => setFresh((old) => new Set([...old].filter((sequence) => sequence !== latest))), FRESH_MS);
        return () => window.clearTimeout(timer);
    }, [latest, sound]);
    return (
        <ol className="said" aria-live="polite" data-field="said">
            {spoken.map((notice) => (
                <li key={notice.sequence} className={clsx(SOUNDS[notice.type], fresh.has(notice.sequence) && 'fresh')}>
                    <time>{notice.time.slice(11, 19)}</time> {notice.words}
                </li>
            ))}
        </ol>
    );
}
