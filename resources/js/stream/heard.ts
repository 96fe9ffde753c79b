let last = Number.NEGATIVE_INFINITY;

/** Something came from the engine, at this moment of the page's clock. */
export function heard(at: number): void {
    last = at;
}

/** How long ago the engine was last heard, ms: asked at a press, since a timer that says so may be late itself. */
export const silence = (): number => performance.now() - last;
