import type { ColumnDef } from '@tanstack/react-table';
import { useMemo, useRef, useState } from 'react';
import type { Level } from '@/api/client';
import { changeLevel, dropLevel, exitAtLevel, setOff, setWithin, useLevels, useNear } from '@/commands/levels';
import { chooseContract } from '@/model/choices';
import { useKeyOf } from '@/model/keymap';
import { priceOf } from '@/model/writing';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { Beside } from './Beside';
import { LiveTable } from './LiveTable';
import { WORDS } from './words';

const TONES = ['sand', 'moss', 'slate', 'clay'] as const;
const EDGES: Record<Level['tone'], string> = {
    sand: 'border-l-sand',
    moss: 'border-l-moss',
    slate: 'border-l-slate',
    clay: 'border-l-clay',
};
const signed = (lots: number | undefined): string => (lots === undefined ? '—' : lots > 0 ? `+${lots}` : lots < 0 ? `−${-lots}` : '0');

/** Keeps what is typed until Enter, or until the field is left; Esc leaves it as it was. */
function Name({ level }: { level: Level }) {
    const [typed, setTyped] = useState<string | null>(null);
    const isDropped = useRef(false);
    const keep = () => {
        if (typed !== null && typed !== level.name && !isDropped.current) changeLevel(level.id, { name: typed });
        isDropped.current = false;
        setTyped(null);
    };
    return (
        <input
            className="w-full rounded-chip border border-transparent bg-transparent px-4 hover:border-rule hover:bg-field focus:border-rule focus:bg-field"
            aria-label={WORDS.levelName(level.low)}
            placeholder="name it"
            maxLength={60}
            value={typed ?? level.name}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={keep}
            onKeyDown={(event) => {
                event.stopPropagation();
                if (event.key !== 'Enter' && event.key !== 'Escape') return;
                isDropped.current = event.key === 'Escape';
                event.currentTarget.blur();
            }}
        />
    );
}

const columns: ColumnDef<Level>[] = [
    { id: 'contract', header: 'Contract', accessorKey: 'contract', meta: { width: '72px' } },
    {
        id: 'price',
        header: 'Price',
        accessorKey: 'high_level',
        cell: ({ row: { original: level } }) =>
            level.low_level === level.high_level
                ? priceOf(level.contract, level.low_level)
                : `${priceOf(level.contract, level.low_level)}–${priceOf(level.contract, level.high_level)}`,
        meta: { width: '114px', number: true },
    },
    {
        id: 'name',
        header: 'Name',
        accessorKey: 'name',
        cell: ({ row }) => <Name level={row.original} />,
        meta: { width: 'minmax(76px, 1fr)' },
    },
    {
        id: 'tone',
        header: 'Tone',
        accessorKey: 'tone',
        cell: ({ row: { original: level } }) => (
            <Select
                look="plain"
                className={`border-l-8 bg-transparent ${EDGES[level.tone]}`}
                aria-label={WORDS.levelTone(level.low)}
                value={level.tone}
                onChange={(event) => changeLevel(level.id, { tone: event.target.value as Level['tone'] })}
            >
                {TONES.map((tone) => (
                    <option key={tone}>{tone}</option>
                ))}
            </Select>
        ),
        meta: { width: '66px' },
    },
    {
        id: 'away',
        header: 'Ticks away',
        accessorFn: (level) => Math.abs(level.figures?.distance ?? 1e9),
        cell: ({ row }) => signed(row.original.figures?.distance ?? undefined),
        meta: { width: '66px', number: true },
    },
    { id: 'resting', header: 'Resting', accessorFn: (level) => level.figures?.resting, meta: { width: '60px', number: true } },
    {
        id: 'ten',
        header: '10 s',
        accessorFn: (level) => level.figures?.change_10s,
        cell: ({ row }) => signed(row.original.figures?.change_10s),
        meta: { width: '52px', number: true },
    },
    {
        id: 'minute',
        header: '60 s',
        accessorFn: (level) => level.figures?.change_60s,
        cell: ({ row }) => signed(row.original.figures?.change_60s),
        meta: { width: '52px', number: true },
    },
    {
        id: 'traded',
        header: 'Bought/sold',
        accessorFn: (level) => (level.figures?.bought ?? 0) + (level.figures?.sold ?? 0),
        cell: ({ row: { original: level } }) => (level.figures ? `${level.figures.bought}/${level.figures.sold}` : '—'),
        meta: { width: '88px', number: true },
    },
    { id: 'state', header: 'So far', accessorFn: (level) => level.figures?.state, meta: { width: '78px' } },
];

/** Marked levels, nearest first: what happens there, and exits from them in one press. */
export function LevelList() {
    const levels = useLevels((state) => state.list);
    const { within, off } = useNear();
    const markKey = useKeyOf('mark');
    const rows = useMemo(
        () => [...levels].sort((a, b) => Math.abs(a.figures?.distance ?? 1e9) - Math.abs(b.figures?.distance ?? 1e9)),
        [levels],
    );
    const all = useMemo<ColumnDef<Level>[]>(
        () => [
            ...columns,
            {
                id: 'acts',
                header: () => <span className="sr-only">Exits</span>,
                enableSorting: false,
                cell: ({ row: { original: level } }) => (
                    <span className="font-text text-small">
                        <Button tone="cell" tabIndex={-1} title={WORDS.stopBehind(off)} onClick={() => void exitAtLevel(level, 'stop')}>
                            stop behind
                        </Button>{' '}
                        <Button tone="cell" tabIndex={-1} title={WORDS.targetBefore(off)} onClick={() => void exitAtLevel(level, 'target')}>
                            target before
                        </Button>{' '}
                        <Button tone="cell" tabIndex={-1} onClick={() => dropLevel(level.id)}>
                            delete
                        </Button>
                    </span>
                ),
                meta: { width: '254px' },
            },
        ],
        [off],
    );
    return (
        <Beside
            lists={1}
            tools={
                <>
                    <NumberField label="Exit offset" value={off} least={0} most={99} unit="ticks" set={setOff} />
                    <NumberField
                        label="Alert within"
                        value={within}
                        least={0}
                        most={99}
                        unit="ticks"
                        set={(value) => void setWithin(value)}
                    />
                </>
            }
        >
            <LiveTable
                label="Marked levels"
                columns={all}
                rows={rows}
                tight
                idOf={(level) => String(level.id)}
                empty={WORDS.noLevels(markKey)}
                onOpen={(level) => chooseContract(level.contract)}
                onKey={(level, key) => {
                    if (key === 'Delete') dropLevel(level.id);
                    else if (key === 'Enter') chooseContract(level.contract);
                    else if (key === 's') void exitAtLevel(level, 'stop');
                    else if (key === 't') void exitAtLevel(level, 'target');
                    else return false;
                    return true;
                }}
            />
        </Beside>
    );
}
