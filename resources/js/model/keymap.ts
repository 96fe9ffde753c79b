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

/** The key of an event as the map writes it: letters are small, and Shift counts only where it is not in the sign itself. With Meta it is none. */
export function comboOf(event: KeyboardEvent): string {
    const name = event.key === ' ' ? 'Space' : event.key.length === 1 ? event.key.toLowerCase() : event.key;
    const shift = event.shiftKey && event.key.length > 1 ? 'Shift+' : '';
    return `${event.metaKey ? 'Meta+' : ''}${event.ctrlKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${shift}${name}`;
}

/** Keys by their place, for when a modifier makes another sign of them. */
const PLACES: Record<string, string> = { BracketLeft: '[', BracketRight: ']' };

/** The key itself, whatever modifiers are down: Alt or Shift may turn its letter into another sign. */
export function plainKeyOf({ key, code }: KeyboardEvent): string {
    if (/^[a-z0-9]$/i.test(key)) return key.toLowerCase();
    if (key === ' ') return 'Space';
    return key.length > 1 && key !== 'Dead'
        ? key
        : (PLACES[code] ?? /^(?:Key|Digit)(.)$/.exec(code)?.[1]?.toLowerCase() ?? key.toLowerCase());
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
