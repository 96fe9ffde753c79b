import { useSettings } from './settings';

export interface KeyAction {
    id: string;
    key: string;
    words: string;
    /** acts once it has been held down for a moment, since it cannot be taken back */
    held: boolean;
}

/** Everything that has a key on the desk: PHP's list, from which the sheet is made. */
export const ACTIONS: KeyAction[] = JSON.parse(document.getElementById('key-actions')?.textContent ?? '[]');

/** Signs by their place on the keyboard, for where the layout or a modifier makes another sign of them. */
const PLACES: Record<string, string> = {
    BracketLeft: '[',
    BracketRight: ']',
    Comma: ',',
    Period: '.',
    Slash: '/',
    Semicolon: ';',
    Quote: "'",
    Minus: '-',
    Equal: '=',
    Backquote: '`',
    Backslash: '\\',
};

const byPlace = (code: string): string | undefined => PLACES[code] ?? /^(?:Key|Digit)(.)$/.exec(code)?.[1]?.toLowerCase();

/** Whether a sign can be meant itself: what other scripts have on a key, or Alt makes of it on a Mac, stands for the key's place. */
const isMeant = (sign: string): boolean => /^[ -~]$/.test(sign) || /\p{Script=Latin}/u.test(sign);

/**
 * The key of an event as the map writes it: letters are small, and Shift counts only where it is not in the sign itself. AltGr is part
 * of the sign that it makes. With Meta down it is no key of ours.
 */
export function comboOf(event: KeyboardEvent): string {
    const { key, code } = event;
    const sign = key.length === 1 && !isMeant(key) ? (byPlace(code) ?? key) : key;
    const name = sign === ' ' ? 'Space' : sign.length === 1 ? sign.toLowerCase() : sign;
    const shift = event.shiftKey && key.length > 1 ? 'Shift+' : '';
    const isGraph = event.getModifierState('AltGraph');
    const modifiers = `${event.ctrlKey && !isGraph ? 'Ctrl+' : ''}${event.altKey && !isGraph ? 'Alt+' : ''}`;
    return `${event.metaKey ? 'Meta+' : ''}${modifiers}${shift}${name}`;
}

/** The key itself, whatever modifiers are down: Alt or Shift may turn its letter into another sign. */
export function plainKeyOf({ key, code }: KeyboardEvent): string {
    if (/^[a-z0-9]$/i.test(key)) return key.toLowerCase();
    if (key === ' ') return 'Space';
    return key.length > 1 && key !== 'Dead' ? key : (byPlace(code) ?? key.toLowerCase());
}

const SIGNS: Record<string, string> = {
    Backspace: '⌫',
    Escape: 'Esc',
    'Shift+Backspace': 'Shift ⌫',
    'Alt+ArrowUp': 'Alt ↑',
    'Alt+ArrowDown': 'Alt ↓',
};

/** A key as a button or the sheet shows it. */
export const showKey = (combo: string): string => SIGNS[combo] ?? (combo.length === 1 ? combo.toUpperCase() : combo.replaceAll('+', ' '));

export const keyFor = (id: string): string => useSettings.getState().keys.keys[id] ?? '';

export const useKeyOf = (id: string): string => showKey(useSettings((settings) => settings.keys.keys[id] ?? ''));
