import { join } from '@/ui/windows';

const TYPING = 'input, textarea, select, [contenteditable]';

/** A window of a panel's own looks as the desk looks, also when that changes, and its keys act like those pressed on the desk. */
export function joinWindow(own: Window): void {
    // The dock tells of a window more than once.
    if (!join(own)) return;
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
    for (const type of ['keydown', 'keyup'] as const) {
        own.addEventListener(type, (event) => {
            if ((event.target as HTMLElement).closest?.(TYPING)) return;
            const { key, ctrlKey, altKey, shiftKey, metaKey, repeat } = event;
            const copy = new KeyboardEvent(type, { key, ctrlKey, altKey, shiftKey, metaKey, repeat, cancelable: true });
            if (!window.dispatchEvent(copy)) event.preventDefault();
        });
    }
}
