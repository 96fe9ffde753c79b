import { useRef } from 'react';

const KEY = 'lotrik.lists-height';
/** Heights that leave both the lists and the ladder something to show, in pixels. */
const LEAST = 142;
const LEFT = 330;
const STEP = 24;

function set(height: number): void {
    const within = Math.round(Math.max(LEAST, Math.min(window.innerHeight - LEFT, height)));
    document.documentElement.style.setProperty('--lists', `${within}px`);
    localStorage.setItem(KEY, String(within));
}

const kept = Number(localStorage.getItem(KEY));
if (kept > 0) set(kept);

/** The upper edge of the lower lists: dragged, or moved by the arrow keys, it makes them higher or lower. */
export function ListsGrip() {
    const grip = useRef<HTMLDivElement>(null);
    const height = () => grip.current?.parentElement?.clientHeight ?? LEAST;
    return (
        // biome-ignore lint/a11y/useSemanticElements: a rule that can be dragged is a separator
        <div
            ref={grip}
            className="lists-grip"
            role="separator"
            aria-orientation="horizontal"
            aria-label="Height of the lists"
            aria-valuenow={Math.round(kept > 0 ? kept : LEAST)}
            tabIndex={0}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={(event) => event.buttons === 1 && set(window.innerHeight - event.clientY)}
            onDoubleClick={() => set(LEAST)}
            onKeyDown={(event) => {
                if (event.key === 'ArrowUp') set(height() + STEP);
                else if (event.key === 'ArrowDown') set(height() - STEP);
                else return;
                event.preventDefault();
                event.stopPropagation();
            }}
        />
    );
}
