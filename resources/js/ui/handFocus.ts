import { useEffect } from 'react';
import { create } from 'zustand';
import { documents } from './windows';
import { matches } from './written';

/** Where keys are typed. Ticks, sliders and files take no letters. */
const TYPED =
    'textarea, select, [contenteditable=true], input:not([type=checkbox], [type=radio], [type=range], [type=button], [type=file])';

/** What stands over the desk keeps the keys for itself. */
const OVER = '[data-modal], [data-modal] *, [data-part=popover], [data-part=popover] *';

/** For so long after the pointer is up a focus is still its doing, ms: a menu that closes gives it back a moment later. */
const BY_POINTER_MS = 200;

const NAME_LETTERS = 24;

interface KeyHolder {
    /** as it is called on the screen */
    name: string;
    /** all keys are typed there; else Enter and Space alone are for it */
    isField: boolean;
}

/** What has the keys, where they are not the desk's. */
export const useKeyHolder = create<{ holder: KeyHolder | null }>(() => ({ holder: null }));

function nameOf(element: HTMLElement): string {
    const label = element.getAttribute('aria-label') ?? (element as HTMLInputElement).labels?.[0]?.textContent ?? element.textContent ?? '';
    const name = label.trim().replace(/\s+/g, ' ');
    return name.length > NAME_LETTERS ? `${name.slice(0, NAME_LETTERS - 1)}…` : name;
}

/** Of this page or of a panel's own window, whichever has one. */
function holderNow(): KeyHolder | null {
    for (const { activeElement: element, body } of documents()) {
        if (element === null || element === body || matches(element, OVER) || !('blur' in element)) continue;
        return { name: nameOf(element as HTMLElement), isField: matches(element, TYPED) };
    }
    return null;
}

const isSame = (one: KeyHolder | null, other: KeyHolder | null): boolean => one?.name === other?.name && one?.isField === other?.isField;

function look(): void {
    const holder = holderNow();
    if (!isSame(holder, useKeyHolder.getState().holder)) useKeyHolder.setState({ holder });
}

/**
 * A press by pointer gives the keys to nothing but a field that is typed in, so that Enter and Esc belong to the draft whatever was
 * pressed last. A list of choices lets go once one is chosen, and Esc gives the keys back from any field.
 */
export function watchHandFocus(one: Window): () => void {
    let isByPointer = false;
    let timer = 0;
    // What another window tells of has not happened here.
    const down = (event: Event) => {
        if (!event.isTrusted) return;
        one.clearTimeout(timer);
        isByPointer = true;
    };
    // A timer rather than a clock: on a busy page it runs only after whatever the press has set off.
    const up = () => {
        one.clearTimeout(timer);
        timer = one.setTimeout(() => {
            isByPointer = false;
        }, BY_POINTER_MS);
    };
    const key = (event: Event) => {
        if (event.isTrusted) isByPointer = false;
    };
    const come = ({ target }: FocusEvent) => {
        if (isByPointer && !matches(target, TYPED) && !matches(target, OVER)) (target as HTMLElement).blur();
        look();
    };
    // Another element is told of once this one has let go.
    const go = () => queueMicrotask(look);
    const choose = ({ target }: Event) => {
        if (isByPointer && matches(target, 'select') && !matches(target, OVER)) (target as HTMLElement).blur();
    };
    const leave = (event: KeyboardEvent) => {
        if (event.key !== 'Escape' || event.defaultPrevented || !matches(event.target, TYPED) || matches(event.target, OVER)) return;
        (event.target as HTMLElement).blur();
        event.preventDefault();
    };
    const listened = [
        ['pointerdown', down],
        ['pointerup', up],
        ['pointercancel', up],
        ['keydown', key],
        ['focusin', come],
        ['focusout', go],
        ['change', choose],
    ] as [string, EventListener][];
    for (const [type, hear] of listened) one.addEventListener(type, hear, true);
    one.addEventListener('keydown', leave);
    return () => {
        for (const [type, hear] of listened) one.removeEventListener(type, hear, true);
        one.removeEventListener('keydown', leave);
    };
}

export function useHandFocus(): void {
    useEffect(() => watchHandFocus(window), []);
}
