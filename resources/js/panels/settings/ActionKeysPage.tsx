import { useState } from 'react';
import { useChoices } from '@/model/choices';
import { comboOf, showKey } from '@/model/keymap';
import { type Settings, STEP_WORDS, type Step, saveSettings, type Tile, useSettings } from '@/model/settings';
import { Button } from '@/ui/Button';
import { Fault } from '@/ui/Fault';
import { FileRow } from '@/ui/FileRow';
import { Group } from '@/ui/Group';
import { FIELD } from '@/ui/looks';
import { Select } from '@/ui/Select';
import { TextField } from '@/ui/TextField';
import { FIELDS, LABEL, Page } from './Page';
import { WORDS } from './words';

const FROM: [value: string, words: string][] = [
    ['bid', 'bid'],
    ['ask', 'ask'],
    ['last', 'last'],
    ['mid', 'mid'],
    ['pointed', 'the rung pointed at'],
    ['average', 'average price'],
];
const MAX_STEPS = 3;
const ORDER: Step = { do: 'order', side: 'buy', kind: 'limit', from: 'bid', offset: 0, lots: 'chosen', plan: 'chosen' };

/** The deck's editor: one tile at a time. */
export function ActionKeysPage() {
    const document = useSettings((settings) => settings['action-keys']);
    const [at, setAt] = useState(0);
    const [fault, setFault] = useState('');
    const save = async (make: (tiles: Tile[]) => Tile[]) => {
        const wrong = await saveSettings('action-keys', (now) => ({ ...now, tiles: make(now.tiles) }));
        setFault(wrong);
        return wrong === '';
    };
    const tile = document.tiles[at];
    const change = (make: (now: Tile) => Partial<Tile>) =>
        void save((tiles) => tiles.map((other, n) => (n === at ? { ...other, ...make(other) } : other)));
    return (
        <Page>
            <Fault words={fault} />
            <div className="flex flex-wrap items-center gap-4">
                {document.tiles.map((other, n) => (
                    <Button tone="choice" key={other.name} aria-pressed={n === at} onClick={() => setAt(n)}>
                        {other.name} {other.key !== null && <kbd>{showKey(other.key)}</kbd>}
                    </Button>
                ))}
                <Button
                    tone="choice"
                    data-action="add-tile"
                    onClick={async () => {
                        if (await save((tiles) => [...tiles, { name: `Tile ${tiles.length + 1}`, key: null, steps: [ORDER] }]))
                            setAt(document.tiles.length);
                    }}
                >
                    + tile
                </Button>
            </div>
            {tile && (
                <TileEditor
                    key={`${at} ${tile.name}`}
                    tile={tile}
                    change={change}
                    remove={() => void save((tiles) => tiles.filter((_, n) => n !== at))}
                />
            )}
            <FileRow
                what="action keys"
                name="lotrik-action-keys"
                document={document}
                take={(taken) => saveSettings('action-keys', () => taken as Settings['action-keys'])}
            />
        </Page>
    );
}

type OrderStep = Extract<Step, { do: 'order' }>;

interface TileProps {
    tile: Tile;
    /** made from the tile as the change before has left it */
    change: (make: (now: Tile) => Partial<Tile>) => void;
    remove: () => void;
}

function TileEditor({ tile, change, remove }: TileProps) {
    const [name, setName] = useState(tile.name);
    const [waiting, setWaiting] = useState(false);
    const changeStep = (n: number, make: (now: Step) => Step) =>
        change(({ steps }) => ({ steps: steps.map((other, at) => (at === n ? make(other) : other)) }));
    return (
        <div className="flex flex-col gap-6">
            <div className={FIELDS}>
                <label className={LABEL}>
                    Label
                    <TextField
                        maxLength={24}
                        value={name}
                        onChange={(event) => setName(event.target.value)}
                        onBlur={() => name !== tile.name && change(() => ({ name }))}
                        data-name="tile-name"
                    />
                </label>
                <span>
                    Key{' '}
                    <Button
                        tone="small"
                        data-name="tile-key"
                        onClick={() => setWaiting(true)}
                        onBlur={() => setWaiting(false)}
                        onKeyDown={(event) => {
                            if (!waiting || ['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return;
                            event.preventDefault();
                            event.stopPropagation();
                            setWaiting(false);
                            const key = comboOf(event.nativeEvent);
                            change(() => ({ key }));
                        }}
                    >
                        {waiting ? 'press a key' : tile.key === null ? 'none' : showKey(tile.key)}
                    </Button>{' '}
                    {tile.key !== null && (
                        <Button tone="choice" onClick={() => change(() => ({ key: null }))}>
                            no key
                        </Button>
                    )}
                </span>
            </div>
            {tile.steps.map((step, n) => (
                <StepEditor
                    key={n}
                    number={n + 1}
                    step={step}
                    change={(make) => changeStep(n, make)}
                    remove={() => change(({ steps }) => ({ steps: steps.filter((_, at) => at !== n) }))}
                />
            ))}
            <div className="flex flex-wrap items-center gap-4">
                {tile.steps.length < MAX_STEPS && (
                    <Button tone="choice" onClick={() => change(({ steps }) => ({ steps: [...steps, ORDER] }))}>
                        + step
                    </Button>
                )}
                <Button tone="choice" onClick={remove}>
                    remove this tile
                </Button>
            </div>
        </div>
    );
}

interface StepProps {
    number: number;
    step: Step;
    change: (make: (now: Step) => Step) => void;
    remove: () => void;
}

function StepEditor({ number, step, change, remove }: StepProps) {
    const plans = useChoices((choices) => choices.plans);
    const order = step.do === 'order' ? (step as OrderStep) : null;
    const put = (make: (now: OrderStep) => Partial<OrderStep>) =>
        change((now) => (now.do === 'order' ? { ...(now as OrderStep), ...make(now as OrderStep) } : now));
    return (
        <Group legend={WORDS.step(number)} className="flex flex-wrap items-center gap-6">
            <Select
                aria-label="Does"
                value={step.do}
                onChange={(event) => {
                    const does = event.target.value;
                    change(() => (does === 'order' ? ORDER : { do: does }));
                }}
            >
                {Object.entries(STEP_WORDS).map(([value, words]) => (
                    <option key={value} value={value}>
                        {words}
                    </option>
                ))}
            </Select>
            {order && (
                <>
                    <Select
                        aria-label="Side"
                        value={order.side}
                        onChange={(event) => {
                            const side = event.target.value as OrderStep['side'];
                            put(() => ({ side }));
                        }}
                    >
                        <option value="buy">buy</option>
                        <option value="sell">sell</option>
                    </Select>
                    <Select
                        aria-label="Lots"
                        value={String(order.lots)}
                        onChange={(event) => {
                            const lots = /^\d+$/.test(event.target.value) ? Number(event.target.value) : (event.target.value as 'chosen');
                            put(() => ({ lots }));
                        }}
                    >
                        <option value="chosen">lots chosen</option>
                        <option value="position">whole position</option>
                        <option value="half">half the position</option>
                        {[1, 2, 3, 5, 10, 20].map((lots) => (
                            <option key={lots} value={lots}>
                                {lots} lots
                            </option>
                        ))}
                    </Select>
                    <Select
                        aria-label="Kind"
                        value={order.kind}
                        onChange={(event) => {
                            const kind = event.target.value as typeof order.kind;
                            put(({ from, offset }) => ({
                                kind,
                                from: kind === 'market' ? null : (from ?? 'bid'),
                                offset: kind === 'market' ? 0 : offset,
                            }));
                        }}
                    >
                        <option value="market">market</option>
                        <option value="limit">limit</option>
                        <option value="stop">stop</option>
                        <option value="mit">MIT</option>
                    </Select>
                    {order.kind !== 'market' && (
                        <>
                            <Select
                                aria-label="Price from"
                                value={order.from ?? 'bid'}
                                onChange={(event) => {
                                    const from = event.target.value;
                                    put(() => ({ from }));
                                }}
                            >
                                {FROM.map(([value, words]) => (
                                    <option key={value} value={value}>
                                        {words}
                                    </option>
                                ))}
                            </Select>
                            <label>
                                ticks{' '}
                                <input
                                    className={`${FIELD} w-64`}
                                    type="number"
                                    aria-label="Ticks from it"
                                    defaultValue={order.offset}
                                    onBlur={(event) => {
                                        const offset = Math.trunc(Number(event.target.value));
                                        if (offset !== order.offset) put(() => ({ offset }));
                                    }}
                                />
                            </label>
                        </>
                    )}
                    <Select
                        aria-label="Plan"
                        value={order.plan}
                        onChange={(event) => {
                            const plan = event.target.value;
                            put(() => ({ plan }));
                        }}
                    >
                        <option value="chosen">plan chosen</option>
                        <option value="none">no plan</option>
                        {plans.map((plan) => (
                            <option key={plan.id} value={plan.document.name}>
                                {plan.document.name}
                            </option>
                        ))}
                    </Select>
                </>
            )}
            {step.do === 'closer' && (
                <label>
                    ticks{' '}
                    <input
                        className={`${FIELD} w-64`}
                        type="number"
                        min={1}
                        defaultValue={'ticks' in step ? (step.ticks ?? 1) : 1}
                        onBlur={(event) => {
                            const ticks = Math.max(1, Math.trunc(Number(event.target.value)));
                            change(() => ({ do: 'closer', ticks }));
                        }}
                    />
                </label>
            )}
            <Button tone="choice" aria-label={WORDS.removeStep(number)} onClick={remove}>
                ×
            </Button>
        </Group>
    );
}
