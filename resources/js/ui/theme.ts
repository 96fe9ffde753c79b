import * as z from 'zod/mini';
import { createKept } from './kept';

export type Theme = 'system' | 'paper' | 'night';

const NEXT: Record<Theme, Theme> = { system: 'paper', paper: 'night', night: 'system' };

/** Paper or night; follows the system until one is chosen. */
export const useTheme = createKept<{ theme: Theme }>('theme', { theme: z.enum(['system', 'paper', 'night']) }, { theme: 'system' });

function show({ theme }: { theme: Theme }): void {
    if (theme === 'system') delete document.documentElement.dataset.theme;
    else document.documentElement.dataset.theme = theme;
}

export const nextTheme = (): void => useTheme.setState(({ theme }) => ({ theme: NEXT[theme] }));

useTheme.subscribe(show);
show(useTheme.getState());
