import { create } from 'zustand';

/** Keys that are down and have not been held for long enough yet. */
export const useHeld = create<{ ids: readonly string[] }>(() => ({ ids: [] }));

export const useIsHeld = (id: string): boolean => useHeld((held) => held.ids.includes(id));
