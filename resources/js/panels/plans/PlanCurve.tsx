import { scaleLinear } from 'd3-scale';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import type { PlanStudy } from '@/api/client';
import { type RatchetDocument, ratchetsOf, type Scope, stopOf, withPortion, withRatchets, withStop } from './document';
import { DRAWING, EVEN, STOP, TARGET } from './lines';
import { edit, useEditor } from './state';
import { WORDS } from './words';

const WIDTH = 600;
const HEIGHT = 240;
const LEFT = 40;
const PAD = 18;
/** Room for the figures below the drawing, clear of its frame. */
const FOOT = 26;
const FARTHEST = 60;

interface Scale {
    right: number;
    low: number;
    high: number;
}

/** What of the plan a handle holds. */
type Held = { what: 'stop' } | { what: 'ratchet'; index: number } | { what: 'target'; index: number };

type Portion = PlanStudy['portions'][number];

const whole = (value: RatchetDocument['at'] | undefined, otherwise: number): number => (typeof value === 'number' ? value : otherwise);

function scaleOf(study: PlanStudy, portion: Portion): Scale {
    const targets = study.portions.map((other) => other.target?.ticks ?? 0);
    const acts = portion.ratchets.map((ratchet) => ratchet.at.ticks + 2 * (ratchet.by ?? 2));
    const right = Math.min(FARTHEST, Math.max(14, ...targets.map((target) => target + 4), ...acts.map((at) => at + 4)));
    const stops = (portion.stops ?? [0]).slice(0, right + 1);
    return { right, low: Math.min(-4, ...stops) - 2, high: Math.max(4, ...stops) + 3 };
}

/** Writes a handle's new place into the document, in whole ticks; PHP says whether it may stand there. */
function move(held: Held, scope: Scope, x: number, y: number, study: PlanStudy): void {
    const { plan } = useEditor.getState();
    if (held.what === 'stop') {
        const stop = scope === 'plan' ? plan.stop : (plan.portions[scope]?.stop ?? plan.stop);
        const kept = stop?.kind === 'stop-limit' ? { kind: stop.kind, limit_ticks: stop.limit_ticks ?? 0 } : {};
        edit(withStop(plan, scope, { ticks: Math.max(1, -y), ...kept }));
    } else if (held.what === 'target') {
        edit(withPortion(plan, held.index, { target: { ticks: Math.max(1, x) } }));
    } else {
        const ratchets = ratchetsOf(plan, scope);
        const present = study.portions[scope === 'plan' ? 0 : scope]?.ratchets;
        const least = held.index === 0 ? 0 : whole(ratchets[held.index - 1]?.at, present?.[held.index - 1]?.at.ticks ?? 0) + 1;
        const most = held.index + 1 < ratchets.length ? whole(ratchets[held.index + 1]?.at, FARTHEST) - 1 : FARTHEST;
        const at = Math.min(most, Math.max(least, x));
        edit(
            withRatchets(
                plan,
                scope,
                ratchets.map((ratchet, index) => {
                    if (index !== held.index) return ratchet;
                    return ratchet.trail === undefined
                        ? { at, lock: ratchet.lock === 'fees' ? 'fees' : Math.min(at - 1, y) }
                        : { at, trail: Math.max(1, at - y), by: ratchet.by ?? 1 };
                }),
            ),
        );
    }
}

/** Where a handle stands by the document, so that quick presses of a key add up; null where a unit has PHP's say. */
function placeOf(held: Held, scope: Scope): [x: number, y: number] | null {
    const { plan } = useEditor.getState();
    if (held.what === 'stop') {
        const ticks = stopOf(plan, scope)?.ticks;
        return ticks === undefined ? null : [0, -ticks];
    }
    if (held.what === 'target') {
        const ticks = plan.portions[held.index]?.target?.ticks;
        return ticks === undefined ? null : [ticks, 0];
    }
    const ratchet = ratchetsOf(plan, scope)[held.index];
    if (typeof ratchet?.at !== 'number') return null;
    if (typeof ratchet.trail === 'number') return [ratchet.at, ratchet.at - ratchet.trail];
    return typeof ratchet.lock === 'number' ? [ratchet.at, ratchet.lock] : null;
}

function Handle(props: {
    x: number;
    y: number;
    label: string;
    value: string;
    name: string;
    grab: (event: PointerEvent) => void;
    nudge: (dx: number, dy: number) => void;
}) {
    const press = (event: KeyboardEvent) => {
        const step = event.shiftKey ? 5 : 1;
        const way = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key];
        if (!way) return;
        event.preventDefault();
        props.nudge(way[0] as number, way[1] as number);
    };
    return (
        <g
            className="group/handle cursor-grab"
            role="slider"
            tabIndex={0}
            aria-label={props.label}
            aria-valuenow={0}
            aria-valuetext={props.value}
            data-handle={props.name}
            transform={`translate(${props.x} ${props.y})`}
            onPointerDown={props.grab}
            onKeyDown={press}
        >
            <title>{WORDS.handle(props.label, props.value)}</title>
            <rect x="-12" y="-12" width="24" height="24" className="fill-transparent" />
            <rect
                x="-5"
                y="-5"
                width="10"
                height="10"
                rx="2"
                className="fill-raised stroke-exit stroke-2 group-hover/handle:fill-exit group-focus-visible/handle:fill-exit"
            />
        </g>
    );
}

/** The ratchet curve with handles: where the stop will stand (up) for the best profit reached (across). */
export function PlanCurve({ study }: { study: PlanStudy }) {
    const scope = useEditor((editor) => editor.scope);
    const portion = study.portions[scope === 'plan' ? 0 : scope] ?? (study.portions[0] as Portion);
    const drag = useRef<{ held: Held; scale: Scale } | null>(null);
    const svg = useRef<SVGSVGElement>(null);
    // While a handle is held the drawing keeps its scale, so that what is under the pointer stays under it.
    const scale = drag.current?.scale ?? scaleOf(study, portion);
    const { right, low, high } = scale;
    const x = scaleLinear([0, right], [LEFT, WIDTH - PAD]).clamp(true);
    const y = scaleLinear([low, high], [HEIGHT - FOOT, PAD]);
    const stops = portion.stops?.slice(0, right + 1);
    const path = stops?.map((stop, at) => (at === 0 ? `M${x(0)} ${y(stop)}` : `H${x(at)}V${y(stop)}`)).join('');
    const lines = y.ticks(6).filter(Number.isInteger);

    const grab = (held: Held) => (event: PointerEvent) => {
        (event.currentTarget as Element).setPointerCapture(event.pointerId);
        drag.current = { held, scale: scaleOf(study, portion) };
    };
    const follow = (event: PointerEvent) => {
        const box = svg.current?.getBoundingClientRect();
        if (!drag.current || !box) return;
        const across = ((event.clientX - box.left) / box.width) * WIDTH;
        const down = ((event.clientY - box.top) / box.height) * HEIGHT;
        move(drag.current.held, scope, Math.round(x.copy().clamp(false).invert(across)), Math.round(y.invert(down)), study);
    };
    const letGo = () => {
        drag.current = null;
        useEditor.setState({});
    };
    const handle = (held: Held, at: number, level: number, label: string, value: string, name: string) => (
        <Handle
            key={name}
            x={x(at)}
            y={y(level)}
            label={label}
            value={value}
            name={name}
            grab={grab(held)}
            nudge={(dx, dy) => {
                const from = placeOf(held, scope) ?? [at, level];
                move(held, scope, from[0] + dx, from[1] + dy, study);
            }}
        />
    );
    const signed = (ticks: number) => (ticks > 0 ? `+${ticks}` : `${ticks}`);

    return (
        <svg
            ref={svg}
            className={DRAWING}
            data-part="plan-curve"
            viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
            aria-labelledby="plan-curve-title"
            role="application"
            onPointerMove={follow}
            onPointerUp={letGo}
            onPointerCancel={letGo}
        >
            <title id="plan-curve-title">Where the stop stands for each best profit</title>
            {lines.map((ticks) => (
                <g key={ticks}>
                    <line className={ticks === 0 ? EVEN : 'stroke-rule'} x1={LEFT} x2={WIDTH - PAD} y1={y(ticks)} y2={y(ticks)} />
                    <text className="fill-soft" x={LEFT - 6} y={y(ticks) + 4} textAnchor="end">
                        {signed(ticks)}
                    </text>
                </g>
            ))}
            {x
                .ticks(5)
                .filter(Number.isInteger)
                .map((ticks) => (
                    <text className="fill-soft" key={ticks} x={x(ticks)} y={HEIGHT - 9} textAnchor="middle">
                        {ticks === 0 ? 'entry' : `+${ticks}`}
                    </text>
                ))}
            <text className="fill-soft" x={WIDTH - PAD} y={y(0) - 4} textAnchor="end">
                break-even
            </text>
            <text className="fill-soft" x={WIDTH - PAD} y={HEIGHT - FOOT - 5} textAnchor="end">
                best profit, in ticks →
            </text>
            <text className="fill-soft" x={LEFT + 4} y={PAD - 4}>
                ↑ where the stop stands
            </text>
            {study.portions.map(
                (other) =>
                    other.target && (
                        <g key={other.portion}>
                            <line className={TARGET} x1={x(other.target.ticks)} x2={x(other.target.ticks)} y1={PAD} y2={HEIGHT - FOOT} />
                            <text className="fill-soft" x={x(other.target.ticks) + 8} y={PAD + 3 + 12 * (other.portion - 1)}>
                                portion {other.portion} target
                            </text>
                        </g>
                    ),
            )}
            {path && <path className={STOP} d={path} />}
            {portion.stop && handle({ what: 'stop' }, 0, portion.stop.ticks, 'Stop', `${signed(portion.stop.ticks)} ticks`, 'stop')}
            {portion.ratchets.map((ratchet, index) =>
                handle(
                    { what: 'ratchet', index },
                    ratchet.at.ticks,
                    ratchet.stop.ticks,
                    `Ratchet ${index + 1}, ${ratchet.word}`,
                    `at ${signed(ratchet.at.ticks)} the stop goes to ${signed(ratchet.stop.ticks)}`,
                    `ratchet-${index + 1}`,
                ),
            )}
            {study.portions.map(
                (other, index) =>
                    other.target &&
                    handle(
                        { what: 'target', index },
                        other.target.ticks,
                        high - 1,
                        `Target of portion ${other.portion}`,
                        `${signed(other.target.ticks)} ticks`,
                        `target-${other.portion}`,
                    ),
            )}
        </svg>
    );
}
