/** Windows of single panels that live from this page. */
const own = new Set<Window>();

/** A window whose panels are in sight: this page's own, else one of its panels'; null while nobody sees anything. */
export const inSight = (): Window | null => (document.hidden ? ([...own].find((one) => !one.document.hidden) ?? null) : window);

/** Of this page and of all windows that live from it. */
export const documents = (): Document[] => [document, ...[...own].map((one) => one.document)];

let front = document;

/** Of the window in which something was pressed last. */
export const documentInFront = (): Document => front;

function watchPresses(one: Window): void {
    // A key of another window is told here too, and was not pressed here.
    const press = (event: Event) => {
        if (event.isTrusted) front = one.document;
    };
    one.addEventListener('pointerdown', press, true);
    one.addEventListener('keydown', press, true);
}

watchPresses(window);

/** Until it closes. False where it has joined before. */
export function join(one: Window): boolean {
    if (own.has(one)) return false;
    own.add(one);
    watchPresses(one);
    one.addEventListener('pagehide', () => {
        own.delete(one);
        if (front === one.document) front = document;
    });
    // Whoever asks whether anything is in sight is told of it here too.
    one.document.addEventListener('visibilitychange', () => document.dispatchEvent(new Event('visibilitychange')));
    return true;
}
