import * as z from 'zod/mini';
import { createKept } from './kept';

/** How much larger than usual letters are, outside of the rungs, which have a height of their own. */
export const LETTERS = [
    ['1', 'usual'],
    ['1.1', 'larger'],
    ['1.2', 'largest'],
] as const;

type Size = (typeof LETTERS)[number][0];

export const useLetters = createKept<{ size: Size }>('letters', { size: z.enum(['1', '1.1', '1.2']) }, { size: '1' });

const show = ({ size }: { size: Size }) => document.documentElement.style.setProperty('--letters', size);

export const setLetters = (wanted: string): void => {
    const found = LETTERS.find(([size]) => size === wanted);
    if (found) useLetters.setState({ size: found[0] });
};

useLetters.subscribe(show);
show(useLetters.getState());
