/** How one of the plans or of the lots looks, chosen or not. */
export const CHOICE = [
    'cursor-pointer rounded-card border border-rule px-2 py-3 text-usual disabled:cursor-default disabled:opacity-50 short:py-1',
    'data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:text-raised data-[state=on]:[&_kbd]:text-shade',
].join(' ');
