import * as z from 'zod/mini';
import { create } from 'zustand';
import type { Position } from '@/api/client';
import { say } from '@/stream/store';
import { createKept } from '@/ui/kept';
import { chooseContract, chosenFor, useChoices } from './choices';
import { turnOneClick, useOneClick } from './oneClick';
import { WORDS } from './words';

/** What one ladder has of its own. */
export interface LadderState {
    id: number;
    code: string;
    lots: number;
    plan: number | null;
    oneClick: boolean;
}

interface Ladders {
    list: LadderState[];
    /** the ladder that keys, cards and lists act on; its own state is in the choices while it is in front */
    front: number;
    /** those that have no room beside the others, and wait behind them */
    hidden: readonly number[];
}

export const MAX_LADDERS = 4;

/** How a ladder is kept, here and in a layout. */
const kept = z.object({
    id: z.catch(z.int().check(z.positive()), 0),
    code: z.string(),
    lots: z.catch(z.int().check(z.positive()), 0),
    plan: z.catch(z.nullable(z.int()), 0),
});

const useKeptLadders = createKept<{ list: z.infer<typeof kept>[]; front: number }>(
    'ladders',
    { list: z.array(kept), front: z.int() },
    { list: [], front: 0 },
);

/** Before they have been opened there is nothing to keep: what was kept would be written over. */
let isOpen = false;

export const useLadders = create<Ladders>(() => ({
    list: [{ id: 1, code: '', lots: 1, plan: null, oneClick: false }],
    front: 1,
    hidden: [],
}));

const inFront = (id: number): LadderState => {
    const { code, lots, plan } = useChoices.getState();
    return { id, code, lots, plan, oneClick: useOneClick.getState().on };
};

/** Every ladder as it is now. */
export function laddersNow(): LadderState[] {
    const { list, front } = useLadders.getState();
    return list.map((ladder) => (ladder.id === front ? inFront(ladder.id) : ladder));
}

/** Whether some ladder that is in sight shows a contract. */
export const isShown = (code: string): boolean =>
    laddersNow().some((ladder) => ladder.code === code && !useLadders.getState().hidden.includes(ladder.id));

function keep(): void {
    useKeptLadders.setState({
        list: laddersNow().map(({ id, code, lots, plan }) => ({ id, code, lots, plan })),
        front: useLadders.getState().front,
    });
}

function show(list: LadderState[], front: number): void {
    const next = list.find((ladder) => ladder.id === front);
    if (!next) return;
    useLadders.setState({ list, front });
    useChoices.setState({ code: next.code, lots: next.lots, plan: next.plan });
    useOneClick.setState({ on: next.oneClick, usedAt: performance.now() });
    keep();
}

/** Brings a ladder in front: its contract, lots, plan and one-click become what keys and cards act on. */
export function bringToFront(id: number): void {
    if (useLadders.getState().front !== id) show(laddersNow(), id);
}

export function nextLadder(): void {
    const { list, front } = useLadders.getState();
    const at = list.findIndex((ladder) => ladder.id === front);
    bringToFront(list[(at + 1) % list.length]?.id ?? front);
}

/** One ladder more, with the next contract and a draft rather than an order on its first click. */
export function addLadder(): void {
    const list = laddersNow();
    if (list.length >= MAX_LADDERS) return say(WORDS.laddersEnough(MAX_LADDERS));
    const { contracts, code } = useChoices.getState();
    const at = contracts.findIndex((contract) => contract.code === code);
    const other = contracts[(at + 1) % contracts.length]?.code ?? code;
    const id = Math.max(...list.map((ladder) => ladder.id)) + 1;
    show([...list, { id, code: other, ...chosenFor(other), oneClick: false }], id);
}

/** Orders and positions stay as they are: only the view of them goes. */
export function closeLadder(id: number): void {
    const list = laddersNow().filter((ladder) => ladder.id !== id);
    const { front } = useLadders.getState();
    if (list.length > 0) show(list, front === id ? (list[0]?.id ?? front) : front);
}

/** As they were when the desk was left; the choices know contracts and plans by now. */
export function openLadders(known: unknown = useKeptLadders.getState().list): void {
    isOpen = true;
    const { contracts, plans, code, lots, plan } = useChoices.getState();
    const list = (z.array(kept).safeParse(known).data ?? [])
        .filter((one) => contracts.some((contract) => contract.code === one.code))
        .slice(0, MAX_LADDERS)
        .map(
            (one, at): LadderState => ({
                id: one.id || at + 1,
                code: one.code,
                lots: one.lots || lots,
                plan: plans.some((candidate) => candidate.id === one.plan) ? one.plan : one.plan === null ? null : plan,
                oneClick: false,
            }),
        );
    const front = list.find((ladder) => ladder.id === useKeptLadders.getState().front) ?? list[0];
    if (front) show(list, front.id);
    else useLadders.setState({ list: [{ id: 1, code, lots, plan, oneClick: false }], front: 1 });
}

/** Nobody looks for a position behind another contract: where nothing is open in front, what is open comes there. */
export function showPosition(positions: readonly Position[]): void {
    const open = positions.filter((position) => position.quantity !== 0);
    const { code } = useChoices.getState();
    const [first] = open;
    if (!first || open.some((position) => position.contract === code)) return;
    const ladder = laddersNow().find((one) => open.some((position) => position.contract === one.code));
    if (ladder) bringToFront(ladder.id);
    else chooseContract(first.contract);
}

/** Off on every ladder: the feed is not live, or nobody used it. */
export function allOneClickOff(why: string): void {
    useLadders.setState(({ list }) => ({ list: list.map((ladder) => ({ ...ladder, oneClick: false })) }));
    turnOneClick(false, why);
}

useChoices.subscribe((now, before) => {
    if (isOpen && (now.code !== before.code || now.lots !== before.lots || now.plan !== before.plan)) keep();
});
