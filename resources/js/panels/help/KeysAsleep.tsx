import { useEffect, useState } from 'react';

/** While the window has no focus no key arrives: said where the eyes are, and a click there wakes them. */
export function KeysAsleep() {
    const [asleep, setAsleep] = useState(() => !document.hasFocus());
    useEffect(() => {
        const look = () => setAsleep(!document.hasFocus());
        const timer = window.setInterval(look, 500);
        window.addEventListener('focus', look);
        window.addEventListener('blur', look);
        return () => {
            window.clearInterval(timer);
            window.removeEventListener('focus', look);
            window.removeEventListener('blur', look);
        };
    }, []);
    return asleep ? (
        <button
            type="button"
            tabIndex={-1}
            className="absolute top-47 right-[calc(var(--cards)+8px)] z-line rounded-card bg-amber px-8 py-1 font-bold text-on-amber"
            onClick={() => window.focus()}
        >
            keyboard inactive: click here
        </button>
    ) : null;
}
