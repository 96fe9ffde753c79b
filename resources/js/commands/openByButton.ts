import { type Basis, bodyOf, type More, type Placement } from '@/model/basis';
import { usedOneClick, useOneClick } from '@/model/oneClick';
import { letWait, takePending } from '@/model/pending';
import { useSettings } from '@/model/settings';
import { place } from './actions';
import { addDraft } from './drafts';

/** Whether buttons that open send at once: with one-click on, or where the trader has set it; else they make a draft. */
export const doButtonsSend = (): boolean => useOneClick.getState().on || useSettings.getState().entry.buttons_at_once;

export function useButtonsSend(): boolean {
    const atOnce = useSettings((settings) => settings.entry.buttons_at_once);
    return useOneClick((state) => state.on) || atOnce;
}

/** What a button opens: sent, or a draft at its rung. An order without a price has no rung: it waits above the ladder. */
export function openByButton(placement: Placement, tick: number | null, basis: Basis, more: More = {}): void {
    if (doButtonsSend()) {
        usedOneClick();
        void place(bodyOf(placement, basis, more));
    } else if (tick === null) letWait(bodyOf(placement, basis, more));
    else addDraft({ ...placement, ...basis, tick, more });
}

/** The order that waits above the ladder goes out as it is shown there. */
export function sendPending(): void {
    const order = takePending();
    if (order) void place(order);
}
