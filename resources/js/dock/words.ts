import type { Value } from '@/ui/value';

export const WORDS = {
    layoutUnreadable: (wanted: Value) => `The layout "${wanted}" could not be read; the standard one stands.`,
    layoutNeedsName: 'Give the layout a name first.',
    tallLists: 'Open the lists to half the desk',
    usualLists: 'Back to the usual height',
    panelOutside: 'A panel stands outside of the desk.',
    inOwnWindow: (title: Value) => `${title} in a window of its own`,
    theme: (theme: Value) => `Theme: ${theme}. A press takes the next one.`,
};
