import * as z from 'zod/mini';
import { create } from 'zustand';
import { createKept } from '@/ui/kept';
import { useChoices } from './choices';
import { WORDS } from './words';

/** What the size of the next order is said in: lots, or what they may lose. */
export type SizedBy = 'lots' | 'money' | 'percent' | 'r';

export const useSizedBy = createKept(
    'sized',
    { by: z.enum(['lots', 'money', 'percent', 'r']), amount: z.string() },
    { by: 'lots' as SizedBy, amount: '' },
);

/** What the engine says of the size, and what it was asked; null while it is not known. */
export const useSize = create<{ key: string; words: string } | null>(() => null);

let isSizing = false;

/** Lots as risk allows them: 0 is none, and sends nothing. */
export function setSizedLots(lots: number): void {
    isSizing = true;
    useChoices.setState({ lots });
    isSizing = false;
}

/** Why there are no lots to send. */
export const whyNoLots = (): string => useSize.getState()?.words ?? WORDS.sizeUnknown;

// Lots that the trader chooses by hand are lots.
useChoices.subscribe(({ code, lots }, before) => {
    if (!isSizing && code === before.code && lots !== before.lots) useSizedBy.setState({ by: 'lots' });
});
