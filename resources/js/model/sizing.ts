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

/** What the engine says of the size, and what it was asked; `asks` where nothing has been typed yet; null while it is not known. */
export const useSize = create<{ key: string; words: string; asks?: boolean } | null>(() => null);

let isSizing = false;

/** Lots as risk allows them: 0 is none, and sends nothing. */
export function setSizedLots(lots: number): void {
    isSizing = true;
    useChoices.setState({ lots });
    isSizing = false;
}

/**
 * Lots that were typed. What is no whole number within the order limit is none, and says why: other lots than those that stand in
 * the field are never sent.
 */
export function typeLots(text: string, limit: number): void {
    const lots = Number(text);
    if (Number.isInteger(lots) && lots >= 1 && lots <= limit) return useChoices.setState({ lots });
    useSize.setState(
        { key: '', words: Number.isInteger(lots) && lots > limit ? WORDS.overOrderLimit(text, limit) : WORDS.noLotsTyped(limit) },
        true,
    );
    setSizedLots(0);
}

/** Why there are no lots to send. */
export const whyNoLots = (): string => useSize.getState()?.words ?? WORDS.sizeUnknown;

// Lots that the trader chooses by hand are lots.
useChoices.subscribe(({ code, lots }, before) => {
    if (!isSizing && code === before.code && lots !== before.lots) useSizedBy.setState({ by: 'lots' });
});
