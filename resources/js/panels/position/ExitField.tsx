import clsx from 'clsx';
import { useState } from 'react';
import { create } from 'zustand';
import { portionsOf, typeExit } from '@/commands/actions';
import type { Ground } from '@/model/basis';
import { typedNumber } from '@/model/typedNumber';
import { EDIT } from '@/ui/looks';
import { Select } from '@/ui/Select';
import type { Line } from './alike';
import { WORDS } from './words';

type Unit = 'ticks' | 'money' | 'price';

/** What was typed last stays chosen. */
const useUnit = create<{ unit: Unit }>(() => ({ unit: 'ticks' }));

interface Props {
    ground: Ground;
    exit: 'stop' | 'target';
    entry: number;
    /** the portions that it is for */
    line: Pick<Line, 'numbers' | 'words'>;
    /** that money is typed in */
    currency: string;
    /** as it stands */
    shown: string;
    alarm?: boolean;
}

/** The stop or target of a portion; pressed it becomes a field: ticks or money from the entry, or a price. Enter sends it, Esc leaves it. */
export function ExitField({ ground, exit, entry, line, currency, shown, alarm = false }: Props) {
    const [typed, setTyped] = useState<string | null>(null);
    const unit = useUnit((state) => state.unit);
    if (typed === null) {
        return (
            <button
                type="button"
                tabIndex={-1}
                className={clsx(EDIT, 'text-left', alarm && 'bg-amber text-on-amber')}
                title={WORDS.typeExit(exit, line.words)}
                data-exit={`${exit}-${line.numbers.join('-')}`}
                onClick={() => setTyped('')}
            >
                {shown}
            </button>
        );
    }
    return (
        <form
            className="relative z-line flex h-19 w-max bg-field outline-1 outline-ink"
            data-part="exit-field"
            onSubmit={(event) => {
                event.preventDefault();
                if (typed !== '') typeExit(ground, exit, { by: unit, value: typedNumber(typed), entry, ...portionsOf(line.numbers) });
                setTyped(null);
            }}
            onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && setTyped(null)}
            onKeyDown={(event) => {
                event.stopPropagation();
                if (event.key === 'Escape') setTyped(null);
            }}
        >
            <input
                className="w-62 border-0 bg-transparent px-3 font-mono text-small leading-[normal] text-ink"
                // biome-ignore lint/a11y/noAutofocus: it was asked for by a press on this very place
                autoFocus
                type="text"
                inputMode="decimal"
                aria-label={WORDS.newExit(exit, line.words)}
                placeholder={exit}
                value={typed}
                onChange={(event) => setTyped(event.target.value.trim())}
            />
            <Select
                look="plain"
                className="border-0 bg-transparent text-tiny text-ink"
                aria-label="Counted in"
                title={WORDS.howExitsCount}
                value={unit}
                onChange={(event) => useUnit.setState({ unit: event.target.value as Unit })}
            >
                <option value="ticks">ticks</option>
                <option value="money">{currency}</option>
                <option value="price">price</option>
            </Select>
        </form>
    );
}
