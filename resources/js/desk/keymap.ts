import { create } from 'zustand';

export interface KeyAction {
    id: string;
    words: string;
    /** as {@link comboOf} writes it */
    key: string;
    /** acts once it has been held down for a moment, since it cannot be taken back */
    held?: true;
}

/** Everything that a key does on the desk, with the key that it has at first. The sheet is made from this list. */
export const ACTIONS = [
    { id: 'send', key: 'Enter', words: 'sends the chosen draft; adds raised lots as a second order' },
    { id: 'send-itself', key: 'Shift+Enter', words: 'raises the chosen order itself, which loses its place' },
    { id: 'drop', key: 'Escape', words: 'drops the chosen draft or change; lets go of what is dragged' },
    { id: 'place', key: 'p', words: 'presses on the rung that is pointed at, by pointer or by arrow keys' },
    { id: 'more-lots', key: '+', words: 'one lot more on the chosen draft or order' },
    { id: 'fewer-lots', key: '-', words: 'one lot less on the chosen draft or order' },
    { id: 'up', key: 'Alt+ArrowUp', words: 'the chosen draft or order one tick up' },
    { id: 'down', key: 'Alt+ArrowDown', words: 'the chosen draft or order one tick down' },
    { id: 'one-click', key: 'o', words: 'one-click on or off' },
    { id: 'lots-1', key: '1', words: 'first lots of the row' },
    { id: 'lots-2', key: '2', words: 'second lots of the row' },
    { id: 'lots-3', key: '3', words: 'third lots of the row' },
    { id: 'lots-4', key: '4', words: 'fourth lots of the row' },
    { id: 'lots-5', key: '5', words: 'fifth lots of the row' },
    { id: 'next-plan', key: 'n', words: 'next exit plan' },
    { id: 'contract-before', key: ',', words: 'contract before' },
    { id: 'contract-after', key: '.', words: 'contract after' },
    { id: 'centre', key: 'Space', words: 'centres the ladder' },
    { id: 'break-even', key: 'b', words: 'stops to break-even' },
    { id: 'flatten', key: 'x', held: true, words: 'flattens this contract' },
    { id: 'half-off', key: 'h', held: true, words: 'takes half off' },
    { id: 'reverse', key: 'r', held: true, words: 'reverses under the chosen plan' },
    { id: 'cancel-all', key: 'Backspace', held: true, words: 'cancels entries and hand-made orders, keeps the stops' },
    { id: 'sheet', key: '?', words: 'this sheet' },
] as const satisfies KeyAction[];

export type ActionId = (typeof ACTIONS)[number]['id'];

/** Which key does what: `id` → key. */
export const useKeymap = create<Record<ActionId, string>>(() => Object.fromEntries(ACTIONS.map(({ id, key }) => [id, key])) as Record<ActionId, string>);

/** The key of an event as the map writes it: letters are small, and Shift counts only where it is not in the sign itself. */
export function comboOf(event: KeyboardEvent): string {
    const name = event.key === ' ' ? 'Space' : event.key.length === 1 ? event.key.toLowerCase() : event.key;
    const shift = event.shiftKey && event.key.length > 1 ? 'Shift+' : '';
    return `${event.ctrlKey ? 'Ctrl+' : ''}${event.metaKey ? 'Meta+' : ''}${event.altKey ? 'Alt+' : ''}${shift}${name}`;
}

const SIGNS: Record<string, string> = { Backspace: '⌫', Escape: 'Esc', 'Alt+ArrowUp': 'Alt ↑', 'Alt+ArrowDown': 'Alt ↓', 'Shift+Enter': 'Shift Enter' };

/** A key as a button or the sheet shows it. */
export const showKey = (combo: string): string => SIGNS[combo] ?? (combo.length === 1 ? combo.toUpperCase() : combo.replaceAll('+', ' '));

export const useKeyOf = (id: ActionId): string => showKey(useKeymap((map) => map[id]));
