import * as z from 'zod/mini';
import { createKept } from '@/ui/kept';

/** How a contract's ladder was left: the tick in the middle, and the ticks of a rung. */
interface Rungs {
    centre: number | null;
    zoom: number;
}

const FIRST: Rungs = { centre: null, zoom: 1 };
const positive = z.int().check(z.positive());
const rungs = z.object({ centre: z.nullable(positive), zoom: positive });

const useRungs = createKept<{ of: Record<string, Rungs> }>('rungs', { of: z.record(z.string(), z.catch(rungs, FIRST)) }, { of: {} });

export const rungsOf = (code: string): Rungs => useRungs.getState().of[code] ?? FIRST;

export const keepRungs = (code: string, part: Partial<Rungs>): void =>
    useRungs.setState(({ of }) => ({ of: { ...of, [code]: { ...rungsOf(code), ...part } } }));
