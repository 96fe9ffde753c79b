import clsx from 'clsx';
import { useEffect, useRef, useState } from 'react';
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
    'level-told': 'level',
    'steps-stopped': 'refusal',
};

/** Of what comes together the first of these is heard. */
const LOUDEST: Sound[] = ['alarm', 'refusal', 'fill', 'stop', 'level'];

/** What is new since the last look, newest first; each of them stands out for a while. */
function useFresh(notices: readonly Notice[]): ReadonlySet<number> {
    const [fresh, setFresh] = useState<ReadonlySet<number>>(new Set());
    const seen = useRef<Notice | undefined>(undefined);
    const timers = useRef(new Set<number>());
    useEffect(() => {
        const end = seen.current ? notices.indexOf(seen.current) : -1;
        const come = notices.slice(0, end === -1 ? MOST : end).filter((notice) => notice.speaks);
        seen.current = notices[0];
        if (come.length === 0) return;
        const sequences = new Set(come.map((notice) => notice.sequence));
        setFresh((old) => new Set([...old, ...sequences]));
        const sound = LOUDEST.find((one) => come.some((notice) => SOUNDS[notice.type] === one));
        if (sound) play(sound);
        const timer = window.setTimeout(() => {
            timers.current.delete(timer);
            setFresh((old) => new Set([...old].filter((sequence) => !sequences.has(sequence))));
        }, FRESH_MS);
        timers.current.add(timer);
    }, [notices]);
    useEffect(() => () => timers.current.forEach((timer) => void window.clearTimeout(timer)), []);
    return fresh;
}

const isLoud = ({ type }: Notice): boolean => SOUNDS[type] === 'alarm' || SOUNDS[type] === 'refusal';

/** The newest lines; stops that trail in a burst do not push out a refusal before it could be read. */
function inSight(spoken: readonly Notice[], fresh: ReadonlySet<number>): Notice[] {
    const loud = spoken.filter((notice) => isLoud(notice) && fresh.has(notice.sequence)).slice(0, MOST - 1);
    const others = spoken.filter((notice) => !loud.includes(notice)).slice(0, MOST - loud.length);
    return spoken.filter((notice) => loud.includes(notice) || others.includes(notice));
}

function looksOf(sound: Sound | undefined, isFresh: boolean): string {
    if (!isFresh) return 'border-transparent';
    if (sound === 'refusal') return 'border-ink bg-amber font-semibold text-on-amber';
    return `${sound === 'stop' ? 'border-exit' : 'border-ink'} font-semibold text-ink`;
}

/**
 * What was just said: fills, stop moves, refusals. It has a place of its own, beside the ladder and over nothing; what
 * happens at a marked level takes a line of its own while it is new, and none of theirs.
 */
export function JustSaid() {
    const notices = useDesk((desk) => desk.notices);
    const fresh = useFresh(notices);
    const spoken = inSight(
        notices.filter((notice) => notice.speaks && notice.type !== 'level-told'),
        fresh,
    );
    const level = notices.find((notice) => notice.type === 'level-told' && fresh.has(notice.sequence));
    return (
        <ol
            // What does not fit whole goes to a second column, out of sight.
            className="mx-4 flex flex-col flex-wrap overflow-hidden text-small text-soft"
            aria-live="polite"
            data-field="said"
        >
            {[...spoken, ...(level ? [level] : [])].map((notice) => (
                <li
                    key={notice.sequence}
                    className={clsx('w-full border-l-3 px-6 py-1', looksOf(SOUNDS[notice.type], fresh.has(notice.sequence)))}
                    data-sound={SOUNDS[notice.type]}
                    data-fresh={fresh.has(notice.sequence) || undefined}
                >
                    <time>{notice.time.slice(11, 19)}</time> {notice.words}
                </li>
            ))}
        </ol>
    );
}
