import { create } from 'zustand';
import type { Contract } from '@/api/client';
import { type Basis, bodyOf, type More, type Placement } from '@/model/basis';
import { kindOfClick, levelOf, PLAIN } from '@/model/clickKind';
import { laddersNow } from '@/model/ladders';
import { whyNoLots } from '@/model/sizing';
import { say, useDesk } from '@/stream/store';
import { place, placePair } from './actions';
import { WORDS } from './words';

/** An order that is shown on the ladder and not sent. It keeps all that it was made with. */
export interface Draft extends Placement, Basis {
    id: number;
    tick: number;
    /** where it came from an action key: which */
    more?: More;
}

interface Drafts {
    list: Draft[];
    /** the one that Enter sends and Esc drops */
    chosen: number | null;
}

export const useDrafts = create<Drafts>(() => ({ list: [], chosen: null }));

let lastId = 0;

/** The draft that keys act on: one that no ladder shows is not sent, moved or dropped behind the trader's back. */
export function chosenDraft(): Draft | undefined {
    const { list, chosen } = useDrafts.getState();
    const draft = list.find((candidate) => candidate.id === chosen);
    return draft && laddersNow().some((ladder) => ladder.code === draft.contract) ? draft : undefined;
}

/** Drafts whose order has been sent and not answered: Enter pressed twice sends one. */
const underWay = new Set<number>();

export function addDraft(draft: Omit<Draft, 'id'>): void {
    if (draft.lots === 0) return say(whyNoLots());
    const id = ++lastId;
    useDrafts.setState((drafts) => ({ list: [...drafts.list, { ...draft, id }], chosen: id }));
}

export function chooseDraft(id: number): void {
    useDrafts.setState({ chosen: id });
}

export function dropDraft(id: number | null): void {
    useDrafts.setState((drafts) => {
        const list = drafts.list.filter((draft) => draft.id !== id);
        return { list, chosen: list.at(-1)?.id ?? null };
    });
}

/** Sends a draft as it is shown. A refused one stays, so that it can be changed. */
export function sendDraft(id: number | null): void {
    const draft = useDrafts.getState().list.find((candidate) => candidate.id === id);
    if (!draft || underWay.has(draft.id)) return;
    underWay.add(draft.id);
    void place(bodyOf(draft, draft, draft.more))
        .then((sent) => sent && dropDraft(draft.id))
        .finally(() => underWay.delete(draft.id));
}

/** At another rung a draft is what a click there would be. */
export function moveDraft(id: number, tick: number, contract: Contract): void {
    const book = useDesk.getState().books[contract.code];
    useDrafts.setState((drafts) => ({
        chosen: id,
        list: drafts.list.map((draft) => {
            const kind = book ? kindOfClick(draft.side, tick, book, PLAIN) : null;
            if (draft.id !== id || kind === null || draft.tick === tick) return draft;
            const { price: _price, trigger: _trigger, ...rest } = draft;
            return { ...rest, tick, ...levelOf(contract, kind, tick, draft.side) };
        }),
    }));
}

export function resizeDraft(id: number | null, by: number): void {
    useDrafts.setState((drafts) => ({
        list: drafts.list.map((draft) => (draft.id === id ? { ...draft, lots: Math.max(1, draft.lots + by) } : draft)),
    }));
}

/** Two drafts of one contract go out together, tied: one cancels the other. */
export function sendPair(): void {
    const { list } = useDrafts.getState();
    const code = chosenDraft()?.contract;
    const pair = list.filter((draft) => draft.contract === code);
    const [one, other] = pair;
    if (!one || !other || pair.length > 2) return say(WORDS.noPair(pair.length));
    if (pair.some((draft) => underWay.has(draft.id))) return;
    for (const draft of pair) underWay.add(draft.id);
    void placePair([bodyOf(one, one, one.more), bodyOf(other, other, other.more)])
        .then((sent) => {
            for (const draft of sent ? pair : []) dropDraft(draft.id);
        })
        .finally(() => {
            for (const draft of pair) underWay.delete(draft.id);
        });
}
