import type * as z from 'zod/mini';
import { create, type StoreApi, type UseBoundStore } from 'zustand';
import { type PersistStorage, persist } from 'zustand/middleware';

const VERSION = 1;

/** A browser that keeps nothing, or no more, is no reason to stop: what was chosen holds until the page is left. */
const storageIn = (where: () => Storage): PersistStorage<unknown> => ({
    getItem(name) {
        try {
            return JSON.parse(where().getItem(name) ?? 'null');
        } catch {
            return null;
        }
    },
    setItem(name, value) {
        try {
            where().setItem(name, JSON.stringify(value));
        } catch {}
    },
    removeItem: (name) => where().removeItem(name),
});

/** From one visit to the next; or for as long as the tab is open, over a reload. */
const PLACES = { browser: storageIn(() => localStorage), tab: storageIn(() => sessionStorage) };

/**
 * A store of what was chosen in this browser, kept from one visit to the next, or by this tab alone. It is read field by field: what is no JSON,
 * or not of its shape, is as if it had never been chosen, and the rest stands.
 *
 * @param shape of the fields that are kept; others begin anew at each visit
 */
export const createKept = <State extends object>(
    name: string,
    shape: { [Field in keyof State]?: z.ZodMiniType<State[Field]> },
    first: State,
    by: keyof typeof PLACES = 'browser',
): UseBoundStore<StoreApi<State>> =>
    create<State>()(
        persist(() => first, {
            name: `lotrik.${name}`,
            version: VERSION,
            storage: PLACES[by] as PersistStorage<Partial<State>>,
            // Each field is looked at anyhow.
            migrate: (kept) => kept as Partial<State>,
            partialize: (state) =>
                Object.fromEntries(Object.keys(shape).map((field) => [field, state[field as keyof State]])) as Partial<State>,
            merge: (kept, now) => {
                const fields = Object.entries(shape) as [keyof State, z.ZodMiniType][];
                const read = fields.flatMap(([field, of]) => {
                    const found = of.safeParse((kept as Partial<State> | null | undefined)?.[field]);
                    return found.success ? [[field, found.data]] : [];
                });
                return { ...now, ...Object.fromEntries(read) };
            },
        }),
    );
