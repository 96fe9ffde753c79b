import { create } from 'zustand';

const KEY = 'lotrik.letters';

/** How much larger than usual letters are, outside of the rungs, which have a height of their own. */
export const LETTERS: [size: string, words: string][] = [
    ['1', 'usual'],
    ['1.1', 'larger'],
    ['1.2', 'largest'],
];

const known = (size: string | null): string => LETTERS.find(([one]) => one === size)?.[0] ?? '1';

export const useLetters = create<{ size: string }>(() => ({ size: known(localStorage.getItem(KEY)) }));

const show = (size: string) => document.documentElement.style.setProperty('--letters', size);

export function setLetters(size: string): void {
    localStorage.setItem(KEY, size);
    useLetters.setState({ size: known(size) });
    show(known(size));
}

show(useLetters.getState().size);
