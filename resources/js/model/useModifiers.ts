import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { keyFor, plainKeyOf } from './keymap';

/** Which keys that change a click are down: Shift gives the other kind, with Alt a stop-limit, as a key of its own does; D a draft. */
export interface Modifiers {
    shift: boolean;
    alt: boolean;
    draft: boolean;
}

const NONE: Modifiers = { shift: false, alt: false, draft: false };

/** What a finger has chosen in place of keys, for its next press. */
export const useTouchModifiers = create<{ modifiers: Modifiers | null }>(() => ({ modifiers: null }));

export function useModifiers(): Modifiers {
    const chosen = useTouchModifiers((touch) => touch.modifiers);
    const [modifiers, setModifiers] = useState<Modifiers>(NONE);
    useEffect(() => {
        const drop = () => setModifiers(NONE);
        const track = (event: KeyboardEvent) => {
            const down = event.type === 'keydown';
            // What is let go while Meta is down a Mac tells nobody.
            if (event.key === 'Meta') drop();
            if (event.key === 'Shift') setModifiers((old) => (old.shift === down ? old : { ...old, shift: down }));
            if (event.key === 'Alt') {
                // The browser's menu is not wanted.
                event.preventDefault();
                setModifiers((old) => (old.alt === down ? old : { ...old, alt: down }));
            }
            // Many systems switch the keyboard's layout with Alt and Shift: one key does what the two do.
            if (plainKeyOf(event) === keyFor('stop-limit'))
                setModifiers((old) => (old.alt === down ? old : { ...old, shift: down, alt: down }));
            if (plainKeyOf(event) === 'd') setModifiers((old) => (old.draft === down ? old : { ...old, draft: down }));
        };
        window.addEventListener('keydown', track);
        window.addEventListener('keyup', track);
        window.addEventListener('blur', drop);
        return () => {
            window.removeEventListener('keydown', track);
            window.removeEventListener('keyup', track);
            window.removeEventListener('blur', drop);
        };
    }, []);
    return chosen ?? modifiers;
}
