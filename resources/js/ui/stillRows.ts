import { useRef } from 'react';

interface Held<Row> {
    /** id → place, as they stood when the pointer came */
    places: Map<string, number>;
    /** what each of them was last */
    last: Map<string, Row>;
}

/**
 * Rows stand still while they are pointed at: none changes its place, one that has gone leaves it only once the pointer has, and what
 * is new comes behind them.
 */
export function useStillRows<Row>(rows: Row[], idOf: (row: Row) => string, isPointed: boolean) {
    const drawn = useRef<readonly string[]>([]);
    const held = useRef<Held<Row> | null>(null);
    if (!isPointed) held.current = null;
    else held.current ??= { places: new Map(drawn.current.map((id, at) => [id, at])), last: new Map() };
    const now = held.current;
    const there = new Set<string>();
    let news = 0;
    if (now) {
        for (const row of rows) {
            const id = idOf(row);
            there.add(id);
            if (now.places.has(id)) now.last.set(id, row);
            else news++;
        }
    }
    const gone = now ? [...now.last].filter(([id]) => !there.has(id)).map(([, row]) => row) : [];
    return {
        rows: gone.length === 0 ? rows : [...rows, ...gone],
        /** how many are new since the pointer came */
        news,
        isGone: (id: string): boolean => now !== null && !there.has(id),
        /** @param sorted as they would stand with nobody pointing at them */
        inPlace: <Sorted extends { id: string }>(sorted: Sorted[]): Sorted[] => {
            const placed = now
                ? sorted
                      .map((row, at) => [now.places.get(row.id) ?? now.places.size + at, row] as const)
                      .sort(([one], [other]) => one - other)
                      .map(([, row]) => row)
                : sorted;
            drawn.current = placed.map(({ id }) => id);
            return placed;
        },
    };
}
