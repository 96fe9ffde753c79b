import { type Contract, call, type Position, type Preview, Problem } from '@/api/client';
import { type Book, say, useDesk } from '@/stream/store';
import { bodyOf, breakEven, cancelAll, flatten, halfOff, hears, type Placement, place, reverse, send, tighten } from './actions';
import { chosenContract, nextLots, nextPlan, useChoices } from './choices';
import { levelOf } from './clickKind';
import { writePrice } from './prices';
import type { Step, Tile } from './settings';
import { armTie } from './tie';
import { usePointed } from './useSpot';

type OrderStep = Extract<Step, { do: 'order' }>;

const ACTS: Record<string, (ticks: number) => void> = {
    flatten,
    reverse,
    'half-off': halfOff,
    'cancel-buys': () => cancelAll(['buy']),
    'cancel-sells': () => cancelAll(['sell']),
    'cancel-all': () => cancelAll(),
    'break-even': () => breakEven(),
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
    lots: number;
    plan: number | null;
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

function make(step: OrderStep, contract: Contract): Made | string {
    const { books, positions } = useDesk.getState();
    const { lots: chosen, plan: chosenPlan, plans } = useChoices.getState();
    const position = positions[contract.code];
    const held = Math.abs(position?.quantity ?? 0);
    const lots =
        step.lots === 'chosen' ? chosen : step.lots === 'position' ? held : step.lots === 'half' ? Math.floor(held / 2) : step.lots;
    if (lots < 1) return step.lots === 'half' ? 'no position to halve' : 'no position';
    const plan =
        step.plan === 'chosen'
            ? chosenPlan
            : step.plan === 'none'
              ? null
              : plans.find((candidate) => candidate.document.name === step.plan)?.id;
    if (plan === undefined) return `no plan ${step.plan}`;
    if (step.kind === 'market') return { placement: { side: step.side, kind: 'market' }, tick: null, lots, plan };
    const from = reference(step.from, books[contract.code], position);
    if (from === null) return step.from === 'pointed' ? 'point at a rung' : `no ${step.from}`;
    const tick = from + step.offset;
    return { placement: { side: step.side, ...levelOf(contract, step.kind, tick, step.side) }, tick, lots, plan };
}

/** What a tile would send at this moment, in words, step by step. */
export function wordsOf(tile: Tile, contract: Contract): string {
    return tile.steps
        .map((step) => {
            if (!isOrder(step)) return `${WORDS[step.do] ?? step.do}${step.do === 'closer' ? ` ${step.ticks ?? 1}` : ''}`;
            const made = make(step, contract);
            if (typeof made === 'string') return made;
            const kind = made.placement.kind === 'mit' ? 'MIT' : made.placement.kind;
            return `${step.side} ${made.lots} ${kind}${made.tick === null ? '' : ` ${writePrice(contract, made.tick)}`}`;
        })
        .join(', then ');
}

const isOrder = (step: Step): step is OrderStep => step.do === 'order';

/** All steps are checked before the first is sent. */
export async function runTile(tile: Tile): Promise<void> {
    const contract = chosenContract(useChoices.getState());
    if (!contract || (tile.steps.some(isOrder) && !hears())) return;
    const account = useChoices.getState().account?.id;
    const made = tile.steps.map((step) => (isOrder(step) ? make(step, contract) : null));
    const missing = made.find((order) => typeof order === 'string');
    if (missing) return say(`${tile.name}: not sent: ${missing}.`);
    const orders = made.filter((order): order is Made => order !== null && typeof order !== 'string');
    try {
        const previews = await Promise.all(
            orders.map((order) =>
                call<Preview>('POST', 'orders/preview', { account, ...bodyOf(order.placement, contract.code, order.lots, order.plan) }),
            ),
        );
        const refused = previews.find((preview) => preview.refusal !== null)?.refusal;
        if (refused) return say(`${tile.name}: nothing was sent: ${refused.detail}`);
    } catch (error) {
        if (error instanceof Problem) return say(`${tile.name}: nothing was sent: ${error.message}`);
        throw error;
    }
    const via = `action key ${tile.name}`;
    for (const [number, step] of tile.steps.entries()) {
        const order = made[number] as Made | null;
        if (order === null) ACTS[step.do]?.('ticks' in step ? (step.ticks ?? 1) : 1);
        else if (tile.steps.length === 1 && order.lots === useChoices.getState().lots && order.plan === useChoices.getState().plan)
            place(order.placement, { via });
        else if ((await send(order.placement, contract.code, order.lots, order.plan, { via })) === null)
            return say(`${tile.name}: stopped at step ${number + 1}.`);
    }
}
