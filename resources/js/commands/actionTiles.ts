import { create } from 'zustand';
import { type Contract, call, type Order, Problem, type StepsPreview } from '@/api/client';
import { type Basis, basisOf, bodyOf } from '@/model/basis';
import { chosenContract, nextLots, nextPlan, useChoices } from '@/model/choices';
import { STEP_WORDS, type Step, type Tile } from '@/model/settings';
import { usePointed } from '@/model/useSpot';
import { say } from '@/stream/store';
import { ask } from '@/ui/question';
import { breakEven, cancelAll, flatten, halfOff, hears, type KeyStep, lotsToConfirm, reverse, runSteps, tighten } from './actions';
import { PRICES_MS } from './command';
import { doButtonsSend, openByButton } from './openByButton';
import { armTie } from './tie';
import { WORDS } from './words';

type OrderStep = Extract<Step, { do: 'order' }>;
type OrderNow = StepsPreview['steps'][number];

const isOrder = (step: Step): step is OrderStep => step.do === 'order';
const ticksOf = (step: Step): number => ('ticks' in step ? (step.ticks ?? 1) : 1);

/** What a tile of one step does where that is no order. */
const ACTS: Record<string, (at: Basis, ticks: number) => unknown> = {
    flatten,
    reverse: (at) => reverse(at, at.plan),
    'half-off': halfOff,
    'cancel-buys': (at) => cancelAll(at, ['buy']),
    'cancel-sells': (at) => cancelAll(at, ['sell']),
    'cancel-all': (at) => cancelAll(at),
    'break-even': (at) => breakEven(at),
    closer: tighten,
};

/** What only the page does. */
const HERE: Record<string, () => void> = { tie: armTie, 'next-plan': nextPlan, 'next-lots': nextLots };

/** One order of a tile, as PHP says that it would be now. */
interface Made extends OrderNow {
    placement: { side: Order['side']; kind: Order['kind']; price?: string; trigger?: string };
    basis: Basis;
}

/** What a tile would do, as it stood when it was looked at: what is painted is what is sent. */
export interface Prepared {
    tile: Tile;
    basis: Basis;
    /** step by step: an order, or null for what is none */
    made: (Made | null)[];
    /** what is not there for one of its orders; then nothing is sent */
    missing: string | null;
    words: string;
}

/** The deck's tiles as they are painted. */
export const usePainted = create<{ tiles: Prepared[] }>(() => ({ tiles: [] }));

/** The plan of a step: undefined where there is none of that name any more. */
function planOf(step: OrderStep, chosen: Basis): number | null | undefined {
    if (step.plan === 'chosen') return chosen.plan;
    if (step.plan === 'none') return null;
    return useChoices.getState().plans.find((plan) => plan.document.name === step.plan)?.id;
}

function make(step: OrderStep, now: OrderNow, chosen: Basis): Made {
    const plan = planOf(step, chosen);
    // What is different for the next order is different from the chosen plan.
    const { change, ...same } = chosen;
    const basis: Basis = { ...same, lots: now.quantity, plan: plan ?? null, ...(change && plan === chosen.plan && { change }) };
    const name = useChoices.getState().plans.find((one) => one.id === plan)?.document.name ?? 'no plan';
    const { price, trigger } = now;
    return {
        ...now,
        ...(plan === undefined && { missing: WORDS.noPlan(step.plan) }),
        words: now.missing ?? (now.closes > 0 ? now.words : `${now.words} · ${name}`),
        placement: { side: step.side, kind: step.kind, ...(price !== null && { price }), ...(trigger !== null && { trigger }) },
        basis,
    };
}

/** Asks what the orders of tiles would be at this moment. */
export async function prepare(tiles: readonly Tile[], contract: Contract, signal?: AbortSignal): Promise<Prepared[]> {
    const basis = basisOf(contract.code);
    const orders = tiles.flatMap((tile) => tile.steps.filter(isOrder));
    const question = { account: basis.account, lots: basis.lots, pointed: usePointed.getState().tick, steps: orders };
    const answer =
        orders.length === 0
            ? { steps: [] }
            : await call<StepsPreview>('POST', `contracts/${contract.code}/steps/preview`, question, signal);
    const nows = answer.steps.values();
    return tiles.map((tile) => {
        const made = tile.steps.map((step) => {
            const now = isOrder(step) ? nows.next().value : undefined;
            return isOrder(step) && now ? make(step, now, basis) : null;
        });
        const words = tile.steps.map(
            (step, at) => made[at]?.words ?? `${STEP_WORDS[step.do] ?? step.do}${step.do === 'closer' ? ` ${ticksOf(step)}` : ''}`,
        );
        return { tile, basis, made, missing: made.find((one) => one?.missing)?.missing ?? null, words: words.join(', then ') };
    });
}

/** For its key: what the deck shows, unless it goes by the rung that is pointed at now, or no deck shows it. */
export async function runTile(tile: Tile): Promise<void> {
    const contract = chosenContract(useChoices.getState());
    if (!contract) return;
    const painted = usePainted.getState().tiles.find((one) => one.tile === tile && one.basis.contract === contract.code);
    const points = tile.steps.some((step) => isOrder(step) && step.from === 'pointed');
    try {
        const late = AbortSignal.timeout(PRICES_MS);
        const prepared = painted && !points ? painted : (await prepare([tile], contract, late))[0];
        if (prepared) await runPrepared(prepared);
    } catch (error) {
        if (error instanceof Problem) say(WORDS.tileRefused(tile.name, error.message));
        else if (error instanceof DOMException && error.name === 'TimeoutError') say(WORDS.pricesTooLate(tile.name));
        else throw error;
    }
}

/** Tiles that are on their way: a second press, or a held key, does not begin them again. */
const underWay = new Set<string>();

export async function runPrepared(prepared: Prepared): Promise<void> {
    const { tile, basis, made, missing, words } = prepared;
    const [only] = tile.steps;
    if (!only || underWay.has(tile.name)) return;
    if (missing) return say(WORDS.tileMisses(tile.name, missing));
    if (made.some((order) => order !== null) && !hears()) return;
    const via = WORDS.actionKey(tile.name);
    if (tile.steps.length === 1) {
        const order = made[0];
        // What its tile says that it closes it never opens, whatever has become of the position.
        if (order)
            return openByButton(order.placement, order.tick, order.basis, { via, ...(order.closes > 0 && { closing: 'close' as const }) });
        return void (HERE[only.do] ?? ACTS[only.do])?.(basis, ticksOf(only));
    }
    const over = lotsToConfirm(Math.max(0, ...made.map((order) => order?.basis.lots ?? 0)));
    const mayOpen = tile.steps.some((step) => step.do === 'order' || step.do === 'reverse');
    if (over === null && (doButtonsSend() || !mayOpen)) return run(prepared, via);
    ask({
        title: 'Send these steps?',
        words: `${tile.name}: ${words}. ${over === null ? WORDS.askOneClickOff : WORDS.askTileOver(over)}`,
        safe: "Don't send",
        leave: () => say(WORDS.notConfirmed),
        answers: [{ label: 'Send it', name: 'send-tile', act: () => void run(prepared, via) }],
    });
}

/** What the engine does goes out as one command; what only the page does follows once that has been taken. */
async function run({ tile, basis, made, words }: Prepared, via: string): Promise<void> {
    const steps = tile.steps.flatMap((step, at): KeyStep[] => {
        const order = made[at];
        if (order) {
            const { account: _account, contract: _contract, ...body } = bodyOf(order.placement, order.basis, { via });
            return [{ do: 'order', order: body }];
        }
        if (step.do in HERE) return [];
        return [
            { do: step.do, ...(step.do === 'closer' && { ticks: ticksOf(step) }), ...(step.do === 'reverse' && { exit_plan: basis.plan }) },
        ];
    });
    underWay.add(tile.name);
    try {
        if (steps.length > 0 && (await runSteps(basis, tile.name, steps, words)) === null) return;
        for (const step of tile.steps) HERE[step.do]?.();
    } finally {
        underWay.delete(tile.name);
    }
}
