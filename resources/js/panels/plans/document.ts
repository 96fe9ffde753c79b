/** The exit plan document as the editor writes it; PHP reads it, and says what is wrong with it. */
export type Unit = 'ticks' | 'points' | 'money' | 'order_money' | 'percent' | 'account_percent' | 'atr';

export type Distance = Partial<Record<Exclude<Unit, 'ticks'>, string>> & { ticks?: number; bar?: string; length?: number };

export type StopDocument = Distance & { kind?: 'stop' | 'stop-limit'; limit_ticks?: number };

export interface RatchetDocument {
    at: number | Distance;
    lock?: number | 'fees' | Distance;
    trail?: number | Distance;
    by?: number | Distance;
}

export interface PortionDocument {
    lots?: number;
    /** of the order's lots */
    percent?: number;
    rest?: boolean;
    target?: Distance | null;
    stop?: StopDocument | null;
    ratchets?: RatchetDocument[] | null;
}

export interface PlanDocument {
    format: string;
    name: string;
    stop: StopDocument | null;
    portions: PortionDocument[];
    ratchets: RatchetDocument[];
    watch: 'last' | 'exit-quote';
    covers: 'entry' | 'position';
    after_target: 'cancel-entry' | 'keep-entry';
}

export const UNITS: [Unit, string][] = [
    ['ticks', 'ticks'],
    ['points', 'points'],
    ['money', 'money a lot'],
    ['order_money', 'money for the order'],
    ['percent', '% of price'],
    ['account_percent', '% of account'],
    ['atr', '× true range'],
];

export const BARS = ['1m', '2m', '3m', '5m', '10m', '15m', '30m', '1h'];

export const unitOf = (distance: Distance): Unit => UNITS.find(([unit]) => distance[unit] !== undefined)?.[0] ?? 'ticks';

export const FRESH: PlanDocument = {
    format: 'lotrik.exit-plan/1',
    name: 'New plan',
    stop: { ticks: 8 },
    portions: [{ rest: true, target: { ticks: 12 } }],
    ratchets: [{ at: 6, lock: 0 }],
    watch: 'last',
    covers: 'entry',
    after_target: 'cancel-entry',
};

/** What of a document a part of it is changed in: the whole plan's stop and ratchets, or one portion's own. */
export type Scope = 'plan' | number;

export const stopOf = (plan: PlanDocument, scope: Scope): StopDocument | null =>
    scope === 'plan' ? plan.stop : (plan.portions[scope]?.stop ?? plan.stop);

export const ratchetsOf = (plan: PlanDocument, scope: Scope): RatchetDocument[] =>
    scope === 'plan' ? plan.ratchets : (plan.portions[scope]?.ratchets ?? plan.ratchets);

export function withPortion(plan: PlanDocument, index: number, change: Partial<PortionDocument>): PlanDocument {
    return { ...plan, portions: plan.portions.map((portion, at) => (at === index ? { ...portion, ...change } : portion)) };
}

/** The portion as a whole, in place of what it was. */
export const withPart = (plan: PlanDocument, index: number, portion: PortionDocument): PlanDocument => ({
    ...plan,
    portions: plan.portions.map((other, at) => (at === index ? portion : other)),
});

export function withStop(plan: PlanDocument, scope: Scope, stop: StopDocument | null): PlanDocument {
    return scope === 'plan' ? { ...plan, stop } : withPortion(plan, scope, { stop });
}

export function withRatchets(plan: PlanDocument, scope: Scope, ratchets: RatchetDocument[]): PlanDocument {
    return scope === 'plan' ? { ...plan, ratchets } : withPortion(plan, scope, { ratchets });
}

/** The last portion takes the rest, the others have lots or a share. */
export function closed(plan: PlanDocument): PlanDocument {
    const last = plan.portions.length - 1;
    return {
        ...plan,
        portions: plan.portions.map(({ lots, percent, rest: _rest, ...portion }, at) =>
            at === last ? { rest: true, ...portion } : { ...(percent === undefined ? { lots: lots ?? 1 } : { percent }), ...portion },
        ),
    };
}
