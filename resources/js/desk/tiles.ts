import { type Contract, call, type Position, type Preview, Problem } from '@/api/client';
import { type Book, say, useDesk } from '@/stream/store';
import { ask } from '@/ui/question';
import { breakEven, cancelAll, flatten, halfOff, hears, place, reverse, send, tighten } from './actions';
import { type Basis, basisOf, bodyOf, type OrderBody, type Placement } from './basis';
import { chosenContract, nextLots, nextPlan, useChoices } from './choices';
import { levelOf } from './clickKind';
import { doButtonsSend, openByButton } from './openings';
import { writePrice } from './prices';
import { type Step, type Tile, useSettings } from './settings';
import { armTie } from './tie';
import { usePointed } from './useSpot';

type OrderStep = Extract<Step, { do: 'order' }>;

/** null where it was refused, so that what comes after it is not sent. */
const ACTS: Record<string, (at: Basis, ticks: number) => unknown> = {
    flatten,
    reverse: (at) => reverse(at, at.plan),
    'half-off': halfOff,
    'cancel-buys': (at) => cancelAll(at, ['buy']),
    'cancel-sells': (at) => cancelAll(at, ['sell']),
    'cancel-all': (at) => cancelAll(at),
    'break-even': (at) => breakEven(at),
    closer: tighten,
    tie: armTie,
    'next-plan': nextPlan,
    'next-lots': nextLots,
};

const WORDS: Record<string, string> = {
    flatten: 'flatten',
    reverse: 'reverse',
    'half-off': 'half off',
    'cancel-buys': 'cancel buys',
    'cancel-sells': 'cancel sells',
    'cancel-all': 'cancel all',
    'break-even': 'stops to break-even',
    closer: 'stops closer',
    tie: 'tie or untie',
    'next-plan': 'next plan',
    'next-lots': 'next lots',
};

/** What a tile's order would be now; words of what is missing where it cannot be made. */
export interface Made {
    placement: Placement;
    tick: number | null;
    basis: Basis;
}

const reference = (from: string | null, book: Book | undefined, position: Position | undefined): number | null => {
    if (from === 'bid') return book?.bestBid ?? null;
    if (from === 'ask') return book?.bestAsk ?? null;
    if (from === 'last') return book?.last?.price ?? null;
    if (from === 'mid')
        return book && book.bestBid !== null && book.bestAsk !== null ? Math.floor((book.bestBid + book.bestAsk) / 2) : null;
    if (from === 'average') return position?.average_level ?? null;
    return usePointed.getState().tick;
};

function make(step: OrderStep, contract: Contract, chosen: Basis): Made | string {
    const { books, positions } = useDesk.getState();
    const { plans } = useChoices.getState();
    const position = positions[contract.code];
    const held = Math.abs(position?.quantity ?? 0);
    const lots =
        step.lots === 'chosen' ? chosen.lots : step.lots === 'position' ? held : step.lots === 'half' ? Math.floor(held / 2) : step.lots;
    if (lots < 1) return step.lots === 'half' ? 'no position to halve' : 'no position';
    const plan =
        step.plan === 'chosen'
            ? chosen.plan
            : step.plan === 'none'
              ? null
              : plans.find((candidate) => candidate.document.name === step.plan)?.id;
    if (plan === undefined) return `no plan ${step.plan}`;
    // What is different for the next order is different from the chosen plan.
    const { change, ...same } = chosen;
    const basis: Basis = { ...same, lots, plan, ...(change && plan === chosen.plan && { change }) };
    if (step.kind === 'market') return { placement: { side: step.side, kind: 'market' }, tick: null, basis };
    const from = reference(step.from, books[contract.code], position);
    if (from === null) return step.from === 'pointed' ? 'point at a rung' : `no ${step.from}`;
    const tick = from + step.offset;
    return { placement: { side: step.side, ...levelOf(contract, step.kind, tick, step.side) }, tick, basis };
}

/** What a tile would do, as it stood when it was looked at: what is painted is what is sent. */
export interface Prepared {
    tile: Tile;
    basis: Basis;
    /** step by step: an order, what is missing for it, or null for what is no order */
    made: (Made | string | null)[];
    words: string;
}

export function prepare(tile: Tile, contract: Contract): Prepared {
    const basis = basisOf(contract.code);
    const made = tile.steps.map((step) => (isOrder(step) ? make(step, contract, basis) : null));
    const words = tile.steps.map((step, at) => {
        const order = made[at];
        if (!isOrder(step) || !order)
            return `${WORDS[step.do] ?? step.do}${step.do === 'closer' ? ` ${'ticks' in step ? (step.ticks ?? 1) : 1}` : ''}`;
        if (typeof order === 'string') return order;
        const kind = order.placement.kind === 'mit' ? 'MIT' : order.placement.kind;
        return `${step.side} ${order.basis.lots} ${kind}${order.tick === null ? '' : ` ${writePrice(contract, order.tick)}`}`;
    });
    return { tile, basis, made, words: words.join(', then ') };
}

/** For its key: as it stands when the key goes down. */
export function runTile(tile: Tile): void {
    const contract = chosenContract(useChoices.getState());
    if (contract) void runPrepared(prepare(tile, contract));
}

const isOrder = (step: Step): step is OrderStep => step.do === 'order';

/** Tiles that are on their way: a second press, or a held key, does not begin them again. */
const underWay = new Set<string>();

/** All steps are checked before the first is sent. */
export async function runPrepared({ tile, basis, made, words }: Prepared): Promise<void> {
    if (underWay.has(tile.name) || (tile.steps.some(isOrder) && !hears())) return;
    const missing = made.find((order) => typeof order === 'string');
    if (missing) return say(`${tile.name}: not sent: ${missing}.`);
    const via = `action key ${tile.name}`;
    const bodies = made.map((order) =>
        order === null || typeof order === 'string' ? null : bodyOf(order.placement, order.basis, { via }),
    );
    const over = useSettings.getState().entry.confirm_over;
    if (tile.steps.length > 1 && over !== null && bodies.some((body) => body !== null && body.quantity > over))
        return say(`${tile.name}: not sent: more than ${over} lots are asked about, which several steps cannot be.`);
    const only = tile.steps.length === 1 ? made[0] : null;
    if (only && typeof only !== 'string' && !doButtonsSend()) return openByButton(only.placement, only.tick, only.basis, { via });
    const go = async () => {
        underWay.add(tile.name);
        try {
            await run(tile, basis, bodies);
        } finally {
            underWay.delete(tile.name);
        }
    };
    if (doButtonsSend() || bodies.every((body) => body === null)) return go();
    ask({
        title: 'Send these steps?',
        words: `${tile.name}: ${words}. One-click is off: send it?`,
        safe: 'Drop it',
        answers: [{ label: 'Send it', name: 'send-tile', act: () => void go() }],
    });
}

async function run(tile: Tile, at: Basis, bodies: (OrderBody | null)[]): Promise<void> {
    try {
        const orders = bodies.filter((body) => body !== null);
        const previews = await Promise.all(orders.map(({ via: _via, ...body }) => call<Preview>('POST', 'orders/preview', body)));
        const refused = previews.find((preview) => preview.refusal !== null)?.refusal;
        if (refused) return say(`${tile.name}: nothing was sent: ${refused.detail}`);
    } catch (error) {
        if (error instanceof Problem) return say(`${tile.name}: nothing was sent: ${error.message}`);
        throw error;
    }
    for (const [number, step] of tile.steps.entries()) {
        const body = bodies[number];
        if (body && tile.steps.length === 1) return place(body);
        const done = body ? send(body) : ACTS[step.do]?.(at, 'ticks' in step ? (step.ticks ?? 1) : 1);
        if ((await done) === null) return say(`${tile.name}: stopped at step ${number + 1}.`);
    }
}
