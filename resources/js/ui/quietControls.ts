import { useEffect } from 'react';
import { matches } from './written';

/**
 * What a hand that rests on keys or wheel must not do: a held Enter presses a button once, the wheel changes no number. With Meta down
 * (Cmd on a Mac) a key is the system's or the browser's: nothing of ours hears of it.
 */
export function useQuietControls(): void {
    useEffect(() => {
        const down = (event: KeyboardEvent) => {
            if (event.repeat && (event.key === 'Enter' || event.key === ' ') && matches(event.target, 'button, a, summary'))
                event.preventDefault();
        };
        const systems = (event: KeyboardEvent) => {
            if (event.metaKey && event.key !== 'Meta') event.stopPropagation();
        };
        const wheel = (event: WheelEvent) => {
            if (matches(event.target, 'input[type=number]:focus')) event.preventDefault();
        };
        window.addEventListener('keydown', systems, true);
        document.addEventListener('keydown', down, true);
        document.addEventListener('wheel', wheel, { capture: true, passive: false });
        return () => {
            window.removeEventListener('keydown', systems, true);
            document.removeEventListener('keydown', down, true);
            document.removeEventListener('wheel', wheel, { capture: true });
        };
    }, []);
}
