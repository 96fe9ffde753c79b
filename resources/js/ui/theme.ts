import { create } from 'zustand';

export type Theme = 'system' | 'paper' | 'night';

const KEY = 'lotrik.theme';
const known = (text: string | null): Theme => (text === 'paper' || text === 'night' ? text : 'system');

/** Paper or night; follows the system until one is chosen. */
export const useTheme = create<{ theme: Theme }>(() => ({ theme: known(localStorage.getItem(KEY)) }));

function show(theme: Theme): void {
    if (theme === 'system') delete document.documentElement.dataset.theme;
    else document.documentElement.dataset.theme = theme;
}

export function nextTheme(): void {
    const theme = { system: 'paper', paper: 'night', night: 'system' }[useTheme.getState().theme] as Theme;
    localStorage.setItem(KEY, theme);
    useTheme.setState({ theme });
    show(theme);
}

show(useTheme.getState().theme);
