import * as z from 'zod/mini';
import { Button } from '@/ui/Button';
import { createKept } from '@/ui/kept';

const useHints = createKept('hints', { seen: z.boolean() }, { seen: false });

/** Three short hints on the first visit; once sent away they never come back. */
export function Hints() {
    const { seen } = useHints();
    if (seen) return null;
    return (
        <aside
            className="absolute inset-x-0 bottom-0 grid h-(--lists) grid-cols-[1fr_1fr_1fr_auto] items-center gap-20 border-t-2 border-ink bg-raised px-18"
            data-part="hints"
            aria-label="First steps"
        >
            <p>
                <b>To place:</b> point left of the price to buy, right of it to sell. A click makes a draft, Enter sends it.
            </p>
            <p>
                <b>Your exit plan</b> puts the stop and targets in as you fill, then moves the stop by the curve on the right.
            </p>
            <p>
                <b>To get out:</b> hold X, or press Flatten. All keys: press ?
            </p>
            <Button onClick={() => useHints.setState({ seen: true })}>Got it</Button>
        </aside>
    );
}
