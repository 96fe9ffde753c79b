import type { PointerEvent } from 'react';

/**
 * Tells once, and in the window that it is in, what became of a pointer that has gone down: it was let go somewhere, or the
 * system took it away (a palm, a gesture of its own, a window that came in front), which is no letting go.
 */
export function onPointerGone({ pointerId, currentTarget }: PointerEvent<Element>, letGo: (at: number) => void, taken: () => void): void {
    const stage = currentTarget.ownerDocument.defaultView;
    const heard = (event: globalThis.PointerEvent) => {
        if (event.pointerId !== pointerId) return;
        stage?.removeEventListener('pointerup', heard);
        stage?.removeEventListener('pointercancel', heard);
        if (event.type === 'pointerup') letGo(event.timeStamp);
        else taken();
    };
    stage?.addEventListener('pointerup', heard);
    stage?.addEventListener('pointercancel', heard);
}
