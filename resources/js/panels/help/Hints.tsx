import { useState } from 'react';

const KEY = 'lotrik.hints-seen';

/** Three short hints on the first visit; once sent away they never come back. */
export function Hints() {
    const [seen, setSeen] = useState(() => localStorage.getItem(KEY) !== null);
    if (seen) return null;
    return (
        <aside className="hints" aria-label="First steps">
            <p>
                <b>To place:</b> point left of the price to buy, right of it to sell. A click makes a draft, Enter sends it.
            </p>
            <p>
                <b>Your exit plan</b> puts the stop and targets in as you fill, then moves the stop by the curve on the right.
            </p>
            <p>
                <b>To get out:</b> hold X, or press Flatten. All keys: press ?
            </p>
            <button
                type="button"
                className="order-button"
                onClick={() => {
                    localStorage.setItem(KEY, '1');
                    setSeen(true);
                }}
            >
                Got it
            </button>
        </aside>
    );
}
