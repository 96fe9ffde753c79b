import { type ScaleLinear, scaleLinear } from 'd3-scale';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { type Contract, call, Problem, type Rehearsal } from '@/api/client';
import { writeExact } from '@/model/prices';
import { Button } from '@/ui/Button';
import { Fault } from '@/ui/Fault';
import { FileButton } from '@/ui/FileButton';
import { Slider } from '@/ui/Slider';
import { TextField } from '@/ui/TextField';
import { DRAWING, EVEN, STOP, TARGET } from './lines';
import { useEditor } from './state';
import { sampleBody } from './useStudy';
import { WORDS } from './words';

const WIDTH = 600;
const HEIGHT = 176;
const LEFT = 52;
const PAD = 10;
/** How many corners a line drawn by hand has at most. */
const CORNERS = 60;
const DRAWN = '0, 6, 3, 9, 5, 14, 8';

type Source = { line: number[] } | { recent: true } | { tape: string };

/** `0, 6, -3` as whole ticks; null where it is none. */
function cornersOf(text: string): number[] | null {
    const corners = text
        .replaceAll('−', '-')
        .split(/[\s,;]+/)
        .filter((part) => part !== '')
        .map(Number);
    return corners.length > 0 && corners.every(Number.isInteger) ? corners : null;
}

const EVENT_WORDS: Record<string, string> = {
    'stop-placed': 'stop placed',
    'target-placed': 'target placed',
    'stop-moved': 'stop moved',
    'target-moved': 'target moved',
    'exit-filled': 'out',
};

function eventWords(event: Rehearsal['events'][number]): string {
    const of = event as unknown as {
        event: string;
        portion: number;
        quantity: number;
        price: string;
        from?: string;
        because?: string;
        order?: string;
    };
    return `Portion ${of.portion}: ${EVENT_WORDS[of.event] ?? of.event}${of.order ? ` at its ${of.order}` : ''} ${of.from ? `${of.from} to ` : ''}${of.price}${of.because ? ` (${of.because})` : ''}`;
}

interface View {
    across: ScaleLinear<number, number>;
    up: ScaleLinear<number, number>;
}

function viewOf(rehearsal: Rehearsal, tickOf: (price: string) => number): View {
    const { steps, events } = rehearsal;
    const levels = steps.flatMap((step) => [step.tick, ...step.stops, ...step.targets].filter((tick): tick is number => tick !== null));
    const filled = events.map((event) => tickOf(String((event as unknown as { price: string }).price)));
    const low = Math.min(rehearsal.entry_level, ...levels, ...filled) - 2;
    const high = Math.max(rehearsal.entry_level, ...levels, ...filled) + 2;
    const last = Math.max(1, steps.length - 1);
    return {
        across: scaleLinear([0, last], [LEFT, WIDTH - PAD]),
        up: scaleLinear([low, high], [HEIGHT - PAD, PAD]),
    };
}

/** Stepped line of a level over the steps, broken where none stands. */
function levelPath(
    steps: Rehearsal['steps'],
    levelAt: (step: Rehearsal['steps'][number]) => number | null | undefined,
    { across, up }: View,
): string {
    let path = '';
    let before: number | null = null;
    steps.forEach((step, at) => {
        const level = levelAt(step) ?? null;
        if (level !== null && before === null) path += `M${across(at)} ${up(level)}`;
        else if (level !== null && level !== before) path += `H${across(at)}V${up(level)}`;
        else if (level !== null && at === steps.length - 1) path += `H${across(at)}`;
        else if (level === null && before !== null) path += `H${across(at)}`;
        before = level;
    });
    return path;
}

/** The plan tried before it is used: on a line that is drawn, on what has just traded, or on a tape. PHP works it out. */
export function Tryout({ contract }: { contract: Contract }) {
    const plan = useEditor((editor) => editor.plan);
    const sample = useEditor((editor) => editor.sample);
    const [text, setText] = useState(DRAWN);
    const [source, setSource] = useState<Source>({ line: cornersOf(DRAWN) as number[] });
    const [rehearsal, setRehearsal] = useState<Rehearsal | null>(null);
    const [fault, setFault] = useState('');
    const [at, setAt] = useState(Number.POSITIVE_INFINITY);
    const drawing = useRef<number[] | null>(null);
    const svg = useRef<SVGSVGElement>(null);

    useEffect(() => {
        if (sample.contract === '') return;
        const abort = new AbortController();
        call<Rehearsal>('POST', 'rehearsals', { ...sampleBody(plan, sample), ...source }, abort.signal)
            .then((answer) => {
                setRehearsal(answer);
                setAt(Number.POSITIVE_INFINITY);
                setFault('');
            })
            .catch((error: unknown) => {
                if (!(error instanceof Problem)) return;
                setFault(error.message);
                // What is drawn would be of another plan.
                setRehearsal(null);
            });
        return () => abort.abort();
    }, [plan, sample, source]);

    const tickOf = (price: string) => Math.round(Number(price) / Number(contract.tick_size));
    const steps = rehearsal?.steps ?? [];
    const step = Math.min(at, Math.max(0, steps.length - 1));
    const shown = steps.slice(0, step + 1);
    const view = rehearsal && viewOf(rehearsal, tickOf);
    const now = steps[step];
    const told = rehearsal?.events.slice(0, now?.events ?? 0) ?? [];
    const portions = Math.max(0, ...steps.map((each) => each.stops.length));

    const tickUnder = (event: PointerEvent): number => {
        const box = svg.current?.getBoundingClientRect();
        if (!box || !view || !rehearsal) return 0;
        const down = ((event.clientY - box.top) / box.height) * HEIGHT;
        return Math.round(view.up.invert(down)) - rehearsal.entry_level;
    };
    const draw = (event: PointerEvent) => {
        const corners = drawing.current;
        const tick = tickUnder(event);
        if (corners && corners.length < CORNERS && corners[corners.length - 1] !== tick) corners.push(tick);
    };
    const finish = () => {
        const corners = drawing.current;
        drawing.current = null;
        if (!corners || corners.length < 2) return;
        setText(corners.join(', '));
        setSource({ line: corners });
    };

    return (
        <section className="flex min-h-0 flex-col gap-4" aria-label="Try the plan">
            <header className="flex items-center gap-8 text-usual">
                <b>Try it</b>
                <label>
                    {WORDS.onLine}{' '}
                    <TextField
                        className="w-190 font-mono"
                        value={text}
                        data-name="line"
                        onChange={(event) => {
                            setText(event.target.value);
                            const corners = cornersOf(event.target.value);
                            if (corners) setSource({ line: corners });
                        }}
                    />
                </label>
                <Button tone="small" data-name="try-recent" onClick={() => setSource({ recent: true })}>
                    on what just traded
                </Button>
                <FileButton
                    label="on a tape…"
                    accept=".csv,text/csv"
                    name="tape"
                    take={(file) => void file.text().then((tape) => setSource({ tape }))}
                />
            </header>
            <Fault words={fault} />
            <svg
                className={`${DRAWING} cursor-crosshair`}
                ref={svg}
                viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
                role="img"
                aria-label={WORDS.tryoutPicture}
                onPointerDown={(event) => {
                    event.currentTarget.setPointerCapture(event.pointerId);
                    drawing.current = [0];
                }}
                onPointerMove={draw}
                onPointerUp={finish}
                onPointerCancel={() => {
                    drawing.current = null;
                }}
            >
                {rehearsal && view && (
                    <>
                        <line
                            className={EVEN}
                            x1={LEFT}
                            x2={WIDTH - PAD}
                            y1={view.up(rehearsal.entry_level)}
                            y2={view.up(rehearsal.entry_level)}
                        />
                        <text className="fill-soft" x={LEFT - 4} y={view.up(rehearsal.entry_level) + 4} textAnchor="end">
                            {rehearsal.entry?.average ?? ''}
                        </text>
                        <path
                            className="fill-none stroke-ink stroke-[1.5]"
                            d={shown.map((each, i) => `${i === 0 ? 'M' : 'L'}${view.across(i)} ${view.up(each.tick)}`).join('')}
                        />
                        {Array.from({ length: portions }, (_, index) => (
                            <g key={index}>
                                <path className={STOP} d={levelPath(shown, (each) => (each.open > 0 ? each.stops[index] : null), view)} />
                                <path
                                    className={TARGET}
                                    d={levelPath(shown, (each) => (each.open > 0 ? each.targets[index] : null), view)}
                                />
                            </g>
                        ))}
                        {told.map((event, index) => {
                            const of = event as unknown as { event: string; price: string; portion: number };
                            if (of.event !== 'exit-filled') return null;
                            const when = steps.findIndex((each) => each.events > index);
                            return (
                                <g key={index}>
                                    <circle className="fill-exit" cx={view.across(when)} cy={view.up(tickOf(of.price))} r="4" />
                                    <text className="fill-ink" x={view.across(when) + 6} y={view.up(tickOf(of.price)) - 5}>
                                        {of.portion}: {of.price}
                                    </text>
                                </g>
                            );
                        })}
                    </>
                )}
            </svg>
            <p className="mb-4 flex items-center gap-10 text-usual whitespace-nowrap tabular-nums">
                <Slider
                    label="Trade by trade"
                    name="step"
                    most={Math.max(0, steps.length - 1)}
                    value={step}
                    set={setAt}
                    className="w-130"
                />
                <span data-field="step">
                    trade {steps.length === 0 ? 0 : step + 1} of {steps.length}
                    {now ? ` · ${now.open} open` : ''}
                </span>
                {rehearsal && (
                    <b data-field="result">
                        {rehearsal.entry === null
                            ? 'never filled'
                            : WORDS.result(
                                  rehearsal.result.ticks,
                                  writeExact(rehearsal.result.money, contract.minor_unit),
                                  writeExact(rehearsal.result.fees, contract.minor_unit, false),
                                  `${writeExact(rehearsal.result.net, contract.minor_unit)} ${rehearsal.result.currency}`,
                                  rehearsal.open_quantity,
                              )}
                    </b>
                )}
            </p>
            <ol className="mb-8 min-h-51 text-small text-soft" aria-label="What happened">
                {told
                    .slice(-3)
                    .reverse()
                    .map((event, index) => (
                        <li key={told.length - index}>{eventWords(event)}</li>
                    ))}
            </ol>
        </section>
    );
}
