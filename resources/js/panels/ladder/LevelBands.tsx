import type { Contract, Level } from '@/api/client';
import { levelWords, useLevels } from '@/commands/levels';
import { RUNG_HEIGHT } from '@/model/rungHeight';
import { Band } from '@/ui/Band';

interface Props {
    contract: Contract;
    top: number;
    rows: number;
    /** ticks that a rung stands for */
    zoom: number;
    /** the band that is being marked now, in ticks */
    marking: { from: number; to: number } | null;
}

/** Marked levels as washes over the rows of the ladder and of its history, with name and lots inside at the left edge. */
export function LevelBands({ contract, top, rows, zoom, marking }: Props) {
    const levels = useLevels((state) => state.list);
    const band = (key: string, low: number, high: number, tone: Level['tone'] | null, words: string, figures = '', state = '') => {
        const from = Math.max(0, (top - high) / zoom);
        const to = Math.min(rows, (top - low + 1) / zoom);
        return (
            to > from && (
                <Band key={key} level={key} tone={tone} style={{ top: from * RUNG_HEIGHT, height: (to - from) * RUNG_HEIGHT }}>
                    {words}
                    {figures && <span className="@max-[500px]/slot:hidden"> · {figures}</span>}
                    {state && <em className="text-soft not-italic @max-[500px]/slot:hidden"> {state}</em>}
                </Band>
            )
        );
    };
    return (
        <>
            {levels
                .filter((level) => level.contract === contract.code)
                .map((level) =>
                    band(
                        String(level.id),
                        level.low_level,
                        level.high_level,
                        level.tone,
                        level.name || levelWords(level),
                        String(level.figures?.resting ?? '—'),
                        level.figures?.state === 'untouched' ? '' : level.figures?.state,
                    ),
                )}
            {marking && band('marking', Math.min(marking.from, marking.to), Math.max(marking.from, marking.to), null, 'let go to mark')}
        </>
    );
}
