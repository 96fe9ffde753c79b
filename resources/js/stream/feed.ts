import { call, type Ticket } from '@/api/client';
import { inSight } from '@/ui/windows';
import { FRAME_NAMES, type FrameName, readFrame } from './frames';
import type { Market } from './market';

/** Without any event for this long the feed counts as stale; heartbeats come every half second. */
export const STALE_AFTER_MS = 2000;
/** A connection that has said nothing for this long is given up: one that hangs half open never ends by itself. */
const SILENT_AFTER_MS = 6000;
const RETRY_MS = [250, 500, 1000, 2000];

/** Keeps one stream open: a new ticket for each try, resumed after the last own event that was received. */
export class Feed {
    private source: EventSource | null = null;
    private tries = 0;
    private after = '';
    private heardAt = 0;
    private openedAt = 0;
    private ended = false;
    private readonly watch: number;

    constructor(
        private readonly market: Market,
        private readonly account: number,
        private readonly contracts: readonly string[],
    ) {
        document.addEventListener('visibilitychange', this.hidden);
        this.watch = window.setInterval(() => this.checkAge(), 250);
        void this.open();
    }

    close(): void {
        this.ended = true;
        window.clearInterval(this.watch);
        document.removeEventListener('visibilitychange', this.hidden);
        this.source?.close();
    }

    private readonly hidden = () => {
        if (inSight() === null) this.market.receive.fresh(false);
    };

    private async open(): Promise<void> {
        try {
            const patience = AbortSignal.timeout(SILENT_AFTER_MS);
            const { ticket, url } = await call<Ticket>('POST', 'stream-ticket', { account: this.account }, patience);
            if (this.ended) return;
            const query = new URLSearchParams({
                ticket,
                contracts: this.contracts.join(','),
                trades: 'together',
                ...(this.after && { after: this.after }),
            });
            const source = new EventSource(`${url}?${query}`);
            this.source = source;
            this.openedAt = performance.now();
            source.onerror = () => this.again(source);
            for (const name of FRAME_NAMES) source.addEventListener(name, (event) => this.take(name, event as MessageEvent<string>));
        } catch {
            this.again(this.source);
        }
    }

    private take(name: FrameName, event: MessageEvent<string>): void {
        const frame = readFrame(name, event.data);
        if (frame === null) {
            // What comes after it would be shown on top of what is not known.
            this.close();
            this.market.receive.feed('foreign');
            return;
        }
        this.heardAt = performance.now();
        this.market.heard(this.heardAt);
        this.tries = 0;
        this.market.receive.feed('live');
        if (inSight() !== null && name === 'heartbeat') this.market.receive.fresh(true);
        (this.market.receive[name] as (frame: unknown) => void)(frame);
        if (event.lastEventId && event.lastEventId !== this.after) {
            this.after = event.lastEventId;
            this.market.receive.sequence(Number(event.lastEventId));
        }
    }

    private again(source: EventSource | null): void {
        if (this.ended || source !== this.source) return;
        source?.close();
        this.source = null;
        this.market.receive.feed('away');
        const wait = RETRY_MS[Math.min(this.tries++, RETRY_MS.length - 1)];
        window.setTimeout(() => void this.open(), wait);
    }

    private checkAge(): void {
        if (this.source === null) return;
        const now = performance.now();
        if (now - Math.max(this.heardAt, this.openedAt) > SILENT_AFTER_MS) this.again(this.source);
        else if (this.heardAt > 0 && now - this.heardAt > STALE_AFTER_MS) this.market.receive.feed('stale');
    }
}
