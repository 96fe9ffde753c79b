import { useEffect, useRef, useState } from 'react';
import { breakEven } from './actions';
import { LOTS, nextPlan, turnContract, useChoices } from './choices';
import { dropDraft, sendDraft, useDrafts } from './drafts';
import { turnOneClick, useOneClick } from './oneClick';

/** How long a key that cannot be taken back is held. */
const HOLD_MS = 300;

/** A field that takes digits: the held keys of the panic pass through it, quick keys do not. */
const counts = (target: EventTarget | null): boolean => target instanceof HTMLInputElement;

const writes = (target: EventTarget | null): boolean =>
    target instanceof HTMLElement && (target.isContentEditable || target.matches('input:not([type=number]), textarea, select'));

const takesSpace = (target: EventTarget | null): boolean => target instanceof HTMLElement && target.matches('button, a, input, [role=tab], [role=radio]');

/** Keys that act at once: lots, plan, contract. */
export function useQuickKeys(recentre: () => void): void {
    useEffect(() => {
        const press = (event: KeyboardEvent) => {
            if (writes(event.target) || counts(event.target) || event.ctrlKey || event.metaKey || event.altKey || document.querySelector('dialog[open]'))
                return;
            const lots = LOTS[Number(event.key) - 1];
            if (lots !== undefined) useChoices.setState({ lots });
            else if (event.key === 'n' || event.key === 'N') nextPlan();
            else if ((event.key === 'b' || event.key === 'B') && !event.repeat) breakEven();
            else if (event.key === 'o' || event.key === 'O') turnOneClick(!useOneClick.getState().on);
            else if (event.key === 'Enter' && !takesSpace(event.target)) sendDraft(useDrafts.getState().chosen);
            else if (event.key === 'Escape') dropDraft(useDrafts.getState().chosen);
            else if (event.key === '.') turnContract(1);
            else if (event.key === ',') turnContract(-1);
            else if (event.key === ' ' && !takesSpace(event.target)) recentre();
            else return;
            event.preventDefault();
        };
        window.addEventListener('keydown', press);
        return () => window.removeEventListener('keydown', press);
    }, [recentre]);
}

/** A key that acts once it has been held; true while it is down. */
export function useHeldKey(key: string, act: () => void): boolean {
    const [held, setHeld] = useState(false);
    const run = useRef(act);
    run.current = act;
    useEffect(() => {
        let timer = 0;
        const drop = () => {
            window.clearTimeout(timer);
            timer = 0;
            setHeld(false);
        };
        const down = (event: KeyboardEvent) => {
            if (event.key.toLowerCase() !== key || writes(event.target)) return;
            if (!counts(event.target)) event.preventDefault();
            if (event.repeat || timer !== 0) return;
            setHeld(true);
            timer = window.setTimeout(() => {
                setHeld(false);
                run.current();
            }, HOLD_MS);
        };
        const up = (event: KeyboardEvent) => {
            if (event.key.toLowerCase() === key) drop();
        };
        window.addEventListener('keydown', down);
        window.addEventListener('keyup', up);
        window.addEventListener('blur', drop);
        return () => {
            drop();
            window.removeEventListener('keydown', down);
            window.removeEventListener('keyup', up);
            window.removeEventListener('blur', drop);
        };
    }, [key]);
    return held;
}
