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

/** The key of an event as the map writes it: letters are small, and Shift counts only where it is not in the sign itself. */
export function comboOf(event: KeyboardEvent): string {
    const name = event.key === ' ' ? 'Space' : event.key.length === 1 ? event.key.toLowerCase() : event.key;
    const shift = event.shiftKey && event.key.length > 1 ? 'Shift+' : '';
    return `${event.ctrlKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${shift}${name}`;
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
