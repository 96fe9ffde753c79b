import type { DockviewApi } from 'dockview-react';
import { TABS_HEIGHT, useDock } from './dock';
import { fitLadders } from './fitLadders';

/** Edges in the dock are so wide, in pixels. */
const NEAR_PX = 6;

/**
 * A line at the foot of the desk takes its room from the lists, and gives it back to them: nothing above them moves under the pointer.
 * A window of another size is shared out by the dock itself, among as many ladders as it has room for.
 */
export function keepAbove(place: HTMLElement, api: DockviewApi): () => void {
    let [height, inner] = [place.clientHeight, window.innerHeight];
    let frame = 0;
    const observer = new ResizeObserver(() => {
        const by = place.clientHeight - height;
        const lists = api.getPanel('working')?.group;
        // Lists that were put elsewhere have nothing to give: taken from them, all below would move.
        const isAtFoot =
            lists?.api.location.type === 'grid' &&
            Math.abs(lists.element.getBoundingClientRect().bottom - place.getBoundingClientRect().top - height) < NEAR_PX;
        const isLine = by !== 0 && window.innerHeight === inner && useDock.getState().lists !== 'folded';
        [height, inner] = [place.clientHeight, window.innerHeight];
        const wanted = (lists?.height ?? 0) + by;
        // The dock shares out its new size at the next frame: this comes after that.
        frame = window.requestAnimationFrame(() => {
            fitLadders(api);
            if (isLine && isAtFoot) lists.api.setSize({ height: Math.max(TABS_HEIGHT, wanted) });
        });
    });
    observer.observe(place);
    return () => {
        observer.disconnect();
        window.cancelAnimationFrame(frame);
    };
}
