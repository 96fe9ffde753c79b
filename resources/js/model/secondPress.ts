import { say } from '@/stream/store';
import { useSettings } from './settings';
import { WORDS } from './words';

let last = { where: '', at: Number.NEGATIVE_INFINITY };

/** What was pressed and taken; `at` is the event's time stamp in ms. */
export function wasPressed(where: string, at: number): void {
    last = { where, at };
}

/** A hand that presses twice in the trader's own while means once: the second is dropped, and said to be. */
export function isSecondPress(where: string, at: number, order: string): boolean {
    const { double_press_ms: within } = useSettings.getState().entry;
    // Windows count their time from their own beginning: what seems to be of the past is of another window.
    if (where !== last.where || Math.abs(at - last.at) >= within) return false;
    say(WORDS.secondPressDropped(within, order));
    return true;
}

/** For a button whose second press would do more than the first had been meant to. */
export const once = (where: string, order: string, act: () => void) => (at: number) => {
    if (isSecondPress(where, at, order)) return;
    wasPressed(where, at);
    act();
};
