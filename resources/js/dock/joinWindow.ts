import { watchHandFocus } from '@/ui/handFocus';
import { join } from '@/ui/windows';
import { isWritten } from '@/ui/written';

/** A window of a panel's own looks as the desk looks, also when that changes, and its keys act like those pressed on the desk. */
export function joinWindow(own: Window): void {
    // The dock tells of a window more than once.
    if (!join(own)) return;
    watchHandFocus(own);
    const root = document.documentElement;
    const follow = () => {
        const theirs = own.document.documentElement;
        theirs.style.cssText = root.style.cssText;
        if (root.dataset.theme === undefined) delete theirs.dataset.theme;
        else theirs.dataset.theme = root.dataset.theme;
    };
    follow();
    const looks = new MutationObserver(follow);
    looks.observe(root, { attributes: true, attributeFilter: ['style', 'data-theme'] });
    own.addEventListener('pagehide', () => looks.disconnect());
    // A key that is down as the window is left may come up unheard.
    own.addEventListener('blur', () => window.dispatchEvent(new Event('blur')));
    for (const type of ['keydown', 'keyup'] as const) {
        own.addEventListener(
            type,
            (event) => {
                if (isWritten(event.target)) return;
                const { key, code, ctrlKey, altKey, shiftKey, metaKey, repeat } = event;
                const modifierAltGraph = event.getModifierState('AltGraph');
                const copy = new KeyboardEvent(type, {
                    key,
                    code,
                    ctrlKey,
                    altKey,
                    shiftKey,
                    metaKey,
                    repeat,
                    modifierAltGraph,
                    cancelable: true,
                });
                // Where it was pressed counts there as it would on the desk: a field for digits keeps its own keys.
                Object.defineProperty(copy, 'target', { value: event.target });
                if (window.dispatchEvent(copy)) return;
                event.preventDefault();
                event.stopPropagation();
            },
            true,
        );
    }
}
