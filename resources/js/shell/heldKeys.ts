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
import { isWritten, matches } from '@/ui/written';

/** How long a key that cannot be taken back is held. */
const HOLD_MS = 300;

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

/** The held action that a key means: exactly its keys, else one of the panic's whatever modifiers are still down. */
function actionOf(event: KeyboardEvent): string | undefined {
    const { keys } = useSettings.getState().keys;
    const isFree = !document.querySelector('dialog[open]') && isFor('desk', event);
    const isCounted = counts(event.target);
    const isMeant = (id: string, key: string) => keys[id] === key && (PANIC.includes(id) ? !isCounted || IN_NUMBERS.includes(id) : isFree);
    return Object.keys(ACTS).find((id) => isMeant(id, comboOf(event))) ?? PANIC.find((id) => isMeant(id, plainKeyOf(event)));
}

interface Down {
    /** the key without its modifiers, which may come up before it */
    key: string;
    /** when it went down, as the browser stamped it */
    since: number;
    timer: number;
    act: () => void;
}

/** Keys that act once they have been held. They stand above all panels, so that none of those can take them along. */
export function useHeldKeys(): void {
    useEffect(() => {
        const downs = new Map<string, Down>();
        const show = () => useHeld.setState({ ids: [...downs.keys()] });
        const drop = (id: string) => {
            window.clearTimeout(downs.get(id)?.timer);
            downs.delete(id);
            show();
        };
        const dropAll = () => [...downs.keys()].forEach(drop);
        const down = (event: KeyboardEvent) => {
            const id = isWritten(event.target) ? undefined : actionOf(event);
            const act = id === undefined ? undefined : ACTS[id];
            if (id === undefined || act === undefined) return;
            // Nobody else hears of it: a tab that has the focus would close on Backspace.
            event.stopPropagation();
            if (!counts(event.target)) event.preventDefault();
            const key = plainKeyOf(event);
            if (event.repeat) return;
            // A key that goes down has come up before, whether anybody heard of it or not.
            for (const [other, is] of downs) if (is.key === key) drop(other);
            const at = groundOf();
            const { plan } = chosenFor(at.contract);
            const begun = () => act(at, plan);
            const done = () => {
                const is = downs.get(id);
                if (is) is.timer = 0;
                useHeld.setState(({ ids }) => ({ ids: ids.filter((other) => other !== id) }));
                begun();
            };
            downs.set(id, { key, since: event.timeStamp, timer: window.setTimeout(done, HOLD_MS), act: begun });
            show();
        };
        const up = (event: KeyboardEvent) => {
            const key = plainKeyOf(event);
            for (const [id, is] of downs) {
                if (is.key !== key) continue;
                // A busy page takes the key's end before its own late timer: what has been held long enough counts.
                const isOverdue = is.timer !== 0 && event.timeStamp - is.since >= HOLD_MS;
                drop(id);
                if (isOverdue) is.act();
            }
        };
        window.addEventListener('keydown', down, true);
        window.addEventListener('keyup', up, true);
        window.addEventListener('blur', dropAll);
        return () => {
            dropAll();
            window.removeEventListener('keydown', down, true);
            window.removeEventListener('keyup', up, true);
            window.removeEventListener('blur', dropAll);
        };
    }, []);
}
