import * as z from 'zod/mini';
import { createKept } from '@/ui/kept';

export const NOISE_MINUTES = [10, 30, 60, 120, 240];

/** How far back entries are tried, in minutes. */
export const useNoiseMinutes = createKept('noise', { minutes: z.int().check(z.minimum(10), z.maximum(240)) }, { minutes: 30 });

/** What is looked back on, and how much of it is kept where that is less. */
export const lastMinutes = (minutes: number, kept: number): string =>
    kept < minutes ? `${kept} of ${minutes} min` : `last ${minutes} min`;
