import * as z from 'zod/mini';
import { Button } from '@/ui/Button';
import { createKept } from '@/ui/kept';
import { WORDS } from './words';

const useHints = createKept('hints', { seen: z.boolean() }, { seen: false });

/** Three short hints on the first visit, over the last rows of the lists; once sent away they never come back. */
export function Hints() {
    const { seen } = useHints();
    if (seen) return null;
    return (
        <aside
            className="absolute inset-x-0 bottom-0 grid max-h-(--lists) grid-cols-[1fr_1fr_1fr_auto] items-center gap-20 border-t-2 border-ink bg-raised px-18 py-6"
            data-part="hints"
            aria-label="First steps"
        >
            <p>
                <b>To place:</b> {WORDS.toPlace}
            </p>
            <p>
                <b>Your exit plan</b> {WORDS.yourExitPlan}
            </p>
            <p>
                <b>To get out:</b> {WORDS.toGetOut}
            </p>
            <Button onClick={() => useHints.setState({ seen: true })}>Got it</Button>
        </aside>
    );
}
