/** How long a key that cannot be taken back is held. */
const HOLD_MS = 300;

interface Down {
    /** the key without its modifiers, which may come up before it */
    key: string;
    /** when it went down, in ms, as the browser stamped it */
    since: number;
    /** null once it has acted */
    timer: number | null;
    act: () => void;
}

/** What becomes of keys that act once they have been held; `show` is told which of them have not acted yet. */
export function createHolding(show: (ids: readonly string[]) => void) {
    const downs = new Map<string, Down>();
    const tell = () => show([...downs].filter(([, { timer }]) => timer !== null).map(([id]) => id));
    const drop = (id: string) => {
        window.clearTimeout(downs.get(id)?.timer ?? undefined);
        downs.delete(id);
    };
    return {
        down(id: string, key: string, at: number, act: () => void): void {
            // A key that goes down has come up before, whether anybody heard of it or not.
            for (const [other, is] of downs) if (is.key === key) drop(other);
            const done = () => {
                downs.set(id, { key, since: at, timer: null, act });
                tell();
                act();
            };
            downs.set(id, { key, since: at, timer: window.setTimeout(done, HOLD_MS), act });
            tell();
        },
        up(key: string, at: number): void {
            for (const [id, is] of downs) {
                if (is.key !== key) continue;
                drop(id);
                tell();
                // A busy page takes the key's end before its own late timer: what has been held long enough counts.
                if (is.timer !== null && at - is.since >= HOLD_MS) is.act();
            }
        },
        dropAll(): void {
            [...downs.keys()].forEach(drop);
            tell();
        },
    };
}
