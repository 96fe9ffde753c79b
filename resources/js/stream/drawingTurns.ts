/** Between two parts that are drawn, in ms: each has a frame of its own, and some frames are left for the pointer. */
const GAP_MS = 22;
/** A timer that is so late has gone with its window. */
const LOST_MS = 300;

interface Part {
    /** how often it is drawn at most, in ms */
    every: number;
    draw: () => void;
}

/**
 * Parts of the picture that are drawn in turn. Nine contracts that each change twenty times a second would be one long
 * task after another; drawn one by one, each fits into a frame. First come, first drawn.
 */
export class DrawingTurns {
    private queue: string[] = [];
    private readonly drawnAt = new Map<string, number>();
    private last = Number.NEGATIVE_INFINITY;
    private waiting: (() => void) | null = null;
    private waitsUntil = 0;

    /** @param stage a window that is in sight: others have late timers */
    constructor(
        private readonly partOf: (name: string) => Part,
        private readonly stage: () => Pick<Window, 'setTimeout' | 'clearTimeout'>,
    ) {}

    /** What has changed is drawn when its turn comes; asked for again before that, it keeps its place. */
    ask(name: string): void {
        if (!this.queue.includes(name)) this.queue.push(name);
        if (this.waiting === null || performance.now() > this.waitsUntil + LOST_MS) this.wait();
    }

    /** Everything has just been drawn. */
    clear(): void {
        const now = performance.now();
        for (const name of this.queue) this.drawnAt.set(name, now);
        this.queue = [];
        this.last = now;
        this.waiting?.();
        this.waiting = null;
    }

    private dueAt(name: string): number {
        return (this.drawnAt.get(name) ?? Number.NEGATIVE_INFINITY) + this.partOf(name).every;
    }

    private wait(): void {
        this.waiting?.();
        this.waitsUntil = Math.max(this.last + GAP_MS, Math.min(...this.queue.map((name) => this.dueAt(name))));
        const stage = this.stage();
        const timer = stage.setTimeout(() => this.next(), Math.max(0, this.waitsUntil - performance.now()));
        this.waiting = () => stage.clearTimeout(timer);
    }

    private next(): void {
        this.waiting = null;
        const now = performance.now();
        const name = this.queue.find((one) => this.dueAt(one) <= now + 1);
        if (name !== undefined) {
            this.queue = this.queue.filter((one) => one !== name);
            this.drawnAt.set(name, now);
            this.last = now;
            this.partOf(name).draw();
        }
        if (this.queue.length > 0 && this.waiting === null) this.wait();
    }
}
