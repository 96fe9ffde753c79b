const TEXTS = 'textarea, input:is(:not([type]), [type=text], [type=search], [type=password], [type=email])';

/**
 * A text is being written there, in whichever window: letters belong to it. Fields for digits, lists and buttons let the
 * panic keys through.
 */
export function isWritten(target: EventTarget | null): boolean {
    return (target as Partial<HTMLElement> | null)?.isContentEditable === true || matches(target, TEXTS);
}

/** Not `instanceof`: an element of another window is of another window's classes. */
export const matches = (target: EventTarget | null, css: string): boolean => (target as Partial<Element> | null)?.matches?.(css) === true;

/** What the arrow keys walk through by itself: lists, tabs, choices, fields. */
export const walksItself = (target: EventTarget | null): boolean =>
    matches(
        target,
        ':is([data-part=live-table], [role=tablist], [role=group], [role=radiogroup], input, textarea, select, [data-modal], [data-modal] *, [data-part=live-table] *, [role=tablist] *, [role=group] *, [role=radiogroup] *)',
    );
