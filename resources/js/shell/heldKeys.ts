import { useEffect } from 'react';
import {
    cancelAccount,
    cancelAll,
    closeFirstEntry,
    closeFirstPortion,
    cover,
    flatten,
    flattenAccount,
    halfOff,
    reverse,
} from '@/commands/actions';
import { type Ground, groundOf } from '@/model/basis';
import { chosenFor } from '@/model/choices';
import { useHeld } from '@/model/held';
import { comboOf, plainKeyOf } from '@/model/keymap';
import { isFor } from '@/model/screen';
import { useSettings } from '@/model/settings';
import { createHolding } from '@/ui/holding';
import { isModalOpen } from '@/ui/modal';
import { isWritten, matches } from '@/ui/written';

/** What a held key does, for the contract, the account and the plan that were chosen as it went down. */
const ACTS: Record<string, (at: Ground, plan: number | null) => void> = {
    flatten: (at) => void flatten(at),
    'flatten-account': flattenAccount,
    'half-off': (at) => void halfOff(at),
    'cancel-all': (at) => void cancelAll(at),
    'cancel-buys': (at) => void cancelAll(at, ['buy']),
    'cancel-sells': (at) => void cancelAll(at, ['sell']),
    'cancel-account': cancelAccount,
    'close-portion': closeFirstPortion,
    'close-entry': closeFirstEntry,
    reverse: (at, plan) => void reverse(at, plan),
    uncover: (at) => void cover(at, null),
};

/** These work on every screen, whatever else is held down, and yield to nothing but a text that is being written. */
const PANIC = ['flatten', 'flatten-account', 'cancel-all', 'cancel-account'];

/** The same keys erase digits: in a field for those they do no more than the contract in front. */
const IN_NUMBERS = ['flatten', 'cancel-all'];

/** A field whose own use of a key goes on while the panic keys listen: digits are erased with Backspace. */
const counts = (target: EventTarget | null): boolean => matches(target, 'input');

/** Ctrl makes it the browser's, and Meta the system's; AltGr is told as Ctrl and Alt. */
const isOurs = (event: KeyboardEvent): boolean => !event.metaKey && (!event.ctrlKey || event.getModifierState('AltGraph'));

/** The held action that a key means: exactly its keys, else one of the panic's with Shift or Alt still down. */
function actionOf(event: KeyboardEvent): string | undefined {
    const { keys } = useSettings.getState().keys;
    const isFree = !isModalOpen() && isFor('desk', event);
    const isCounted = counts(event.target);
    const isMeant = (id: string, key: string) => keys[id] === key && (PANIC.includes(id) ? !isCounted || IN_NUMBERS.includes(id) : isFree);
    return (
        Object.keys(ACTS).find((id) => isMeant(id, comboOf(event))) ??
        (isOurs(event) ? PANIC.find((id) => isMeant(id, plainKeyOf(event))) : undefined)
    );
}

/** Keys that act once they have been held. They stand above all panels, so that none of those can take them along. */
export function useHeldKeys(): void {
    useEffect(() => {
        const holding = createHolding((ids) => useHeld.setState({ ids }));
        const down = (event: KeyboardEvent) => {
            // With Meta down the system takes the keys, and a Mac tells of none that is let go meanwhile.
            if (event.key === 'Meta') holding.dropAll();
            const id = isWritten(event.target) ? undefined : actionOf(event);
            const act = id === undefined ? undefined : ACTS[id];
            if (id === undefined || act === undefined) return;
            // Nobody else hears of it: a tab that has the focus would close on Backspace.
            event.stopPropagation();
            if (!counts(event.target)) event.preventDefault();
            if (event.repeat) return;
            const at = groundOf();
            const { plan } = chosenFor(at.contract);
            holding.down(id, plainKeyOf(event), event.timeStamp, () => act(at, plan));
        };
        const up = (event: KeyboardEvent) => (event.key === 'Meta' ? holding.dropAll() : holding.up(plainKeyOf(event), event.timeStamp));
        const hide = () => document.hidden && holding.dropAll();
        window.addEventListener('keydown', down, true);
        window.addEventListener('keyup', up, true);
        window.addEventListener('blur', holding.dropAll);
        document.addEventListener('visibilitychange', hide);
        return () => {
            holding.dropAll();
            window.removeEventListener('keydown', down, true);
            window.removeEventListener('keyup', up, true);
            window.removeEventListener('blur', holding.dropAll);
            document.removeEventListener('visibilitychange', hide);
        };
    }, []);
}
