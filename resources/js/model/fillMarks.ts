import { useMemo } from 'react';
import { create } from 'zustand';
import { call, list, type OutsideFill } from '@/api/client';
import { say, useDesk } from '@/stream/store';
import type { Colours } from '@/ui/useColours';
import { useChoices } from './choices';
import { useHistoryView } from './historyView';
import { WORDS } from './words';

/** Whose fill it is: of a stop or a target that followed its plan, sent by hand, or brought in from another program. */
export type FillOrigin = 'plan' | 'hand' | 'imported';

export interface FillMark {
    /** ms since 1970 UTC */
    at: number;
    level: number;
    origin: FillOrigin;
}

/** Fills from other programs, oldest first. */
export const useOutsideFills = create<{ fills: OutsideFill[] }>(() => ({ fills: [] }));

export async function fetchOutsideFills(account: number): Promise<void> {
    useOutsideFills.setState({ fills: await list<OutsideFill>(`outside-fills?account=${account}`) });
}

/** A file of fills; what came of it, or what is wrong with it, is said. */
export async function importFills(file: File): Promise<void> {
    const account = useChoices.getState().account?.id ?? 0;
    try {
        const { imported, known } = await call<{ imported: number; known: number }>('POST', 'outside-fills', {
            account,
            csv: await file.text(),
        });
        await fetchOutsideFills(account);
        say(WORDS.fillsTaken(imported, file.name, known), 'done');
    } catch (error) {
        say(`${file.name}: ${(error as Error).message}`);
    }
}

export async function forgetOutsideFills(): Promise<void> {
    const account = useChoices.getState().account?.id ?? 0;
    try {
        await call('DELETE', `outside-fills?account=${account}`);
        await fetchOutsideFills(account);
    } catch (error) {
        say((error as Error).message);
    }
}

/** The fills of a contract that the trader wants to see marked. */
export function useFillMarks(code: string): FillMark[] {
    const fills = useDesk((desk) => desk.fills);
    const outside = useOutsideFills((state) => state.fills);
    const wanted = useHistoryView((state) => state.fills);
    return useMemo(() => {
        const own = fills.map((fill) => ({
            ...fill,
            origin: fill.role === 'stop' || fill.role === 'target' ? ('plan' as const) : ('hand' as const),
        }));
        return [...own, ...outside.map((fill) => ({ ...fill, origin: 'imported' as const }))]
            .filter((fill) => fill.contract === code && (wanted === 'all' || wanted === fill.origin))
            .map(({ time, level, origin }) => ({ at: Date.parse(time), level, origin }));
    }, [fills, outside, wanted, code]);
}

/** A dot was sent by hand, a ring is of a stop or a target, a square came from another program. */
export function drawFillMarks(
    context: CanvasRenderingContext2D,
    colours: Colours,
    marks: FillMark[],
    x: (at: number) => number | null,
    y: (level: number) => number,
): void {
    context.fillStyle = context.strokeStyle = colours.own;
    context.lineWidth = 2;
    for (const { at, level, origin } of marks) {
        const left = x(at);
        if (left === null) continue;
        context.beginPath();
        if (origin === 'imported') context.rect(left - 3.5, y(level) - 3.5, 7, 7);
        else context.arc(left, y(level), 4, 0, Math.PI * 2);
        if (origin === 'hand') context.fill();
        else context.stroke();
    }
}
