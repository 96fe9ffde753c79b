/** Windows of single panels that live from this page. */
const own = new Set<Window>();

/** A window whose panels are in sight: this page's own, else one of its panels'; null while nobody sees anything. */
export const inSight = (): Window | null => (document.hidden ? ([...own].find((one) => !one.document.hidden) ?? null) : window);

/** Of this page and of all windows that live from it. */
export const documents = (): Document[] => [document, ...[...own].map((one) => one.document)];

/** Of the window that the trader is at. */
export const documentInFront = (): Document => documents().find((one) => one.hasFocus()) ?? document;

/** Until it closes. False where it has joined before. */
export function join(one: Window): boolean {
    if (own.has(one)) return false;
    own.add(one);
    one.addEventListener('pagehide', () => own.delete(one));
    // Whoever asks whether anything is in sight is told of it here too.
    one.document.addEventListener('visibilitychange', () => document.dispatchEvent(new Event('visibilitychange')));
    return true;
}
