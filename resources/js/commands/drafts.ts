import * as z from 'zod/mini';
import { create } from 'zustand';
import type { Contract } from '@/api/client';
import { type Basis, bodyOf, type More, type Placement } from '@/model/basis';
import { useChoices } from '@/model/choices';
import { kindOfClick, levelOf, PLAIN } from '@/model/clickKind';
import { isShown } from '@/model/ladders';
import { whyNoLots } from '@/model/sizing';
import { deskNow, say } from '@/stream/store';
import { createKept } from '@/ui/kept';
import { place, placePair } from './actions';
import { WORDS } from './words';

/** An order that is shown on the ladder and not sent. It keeps all that it was made with. */
export interface Draft extends Placement, Basis {
    id: number;
    tick: number;
    /** where it came from an action key: which */
    more?: More;
}

/** What a kept draft must have to be shown; all else goes along as it was. */
const draftShape = z.looseObject({
    id: z.int(),
    sentAs: z.optional(z.string()),
    tick: z.int(),
    side: z.enum(['buy', 'sell']),
    kind: z.enum(['limit', 'market', 'stop', 'stop-limit', 'mit']),
    account: z.int(),
    contract: z.string(),
    lots: z.int().check(z.positive()),
    plan: z.nullable(z.int()),
    tag: z.string(),
});

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
    return draft && isShown(draft.contract) ? draft : undefined;
}

/** Drafts whose order has been sent and not answered, and as which command: Enter pressed twice sends one. */
const underWay = new Map<number, string>();

export const sentAs = (draft: number): string | undefined => underWay.get(draft);

/** As they stand, for a page that is loaded anew in this tab. */
const useKeptDrafts = createKept('drafts', { list: z.array(draftShape) }, { list: [] as z.infer<typeof draftShape>[] }, 'tab');

/** Those of the page before, until it is known which of them are still drafts. */
let before = useKeptDrafts.getState().list;

const keep = (): void =>
    useKeptDrafts.setState({
        list: [...before, ...useDrafts.getState().list.map((draft) => ({ ...draft, sentAs: underWay.get(draft.id) }))],
    });

/** Null where one of them is on its way already. */
function begin(drafts: readonly Draft[]): string | null {
    if (drafts.some((draft) => underWay.has(draft.id))) return null;
    const id = crypto.randomUUID();
    for (const draft of drafts) underWay.set(draft.id, id);
    keep();
    return id;
}

/** Whatever came of it, they are no longer on their way; a refused one stays. */
async function ended(drafts: readonly Draft[], answer: Promise<unknown>): Promise<void> {
    try {
        if (await answer) for (const draft of drafts) dropDraft(draft.id);
    } finally {
        for (const draft of drafts) underWay.delete(draft.id);
        keep();
    }
}

export function addDraft(draft: Omit<Draft, 'id'>): void {
    if (draft.lots === 0) return say(whyNoLots());
    const id = ++lastId;
    useDrafts.setState((drafts) => ({ list: [...drafts.list, { ...draft, id }], chosen: id }));
}

/**
 * Those that this tab had before it was loaded anew, of the account that is shown. One whose order was under way is gone where
 * that had been done.
 */
export function openDrafts(done: ReadonlySet<string>): void {
    const { account, contracts, plans } = useChoices.getState();
    const back = before
        .filter(
            (draft) =>
                draft.account === account?.id &&
                contracts.some((contract) => contract.code === draft.contract) &&
                (draft.plan === null || plans.some((plan) => plan.id === draft.plan)) &&
                !(draft.sentAs && done.has(draft.sentAs)),
        )
        .map(({ sentAs: _sentAs, ...draft }) => ({ ...draft, id: ++lastId }) as Draft);
    before = [];
    useDrafts.subscribe(keep);
    useDrafts.setState(({ list, chosen }) => ({ list: [...back, ...list], chosen: chosen ?? back.at(-1)?.id ?? null }));
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
    const command = draft ? begin([draft]) : null;
    if (!draft || command === null) return;
    void ended([draft], place(bodyOf(draft, draft, draft.more), command));
}

/** At another rung a draft is what a click there would be. */
export function moveDraft(id: number, tick: number, contract: Contract): void {
    const book = deskNow().books[contract.code];
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
    const command = begin(pair);
    if (command === null) return;
    void ended(pair, placePair([bodyOf(one, one, one.more), bodyOf(other, other, other.more)], command));
}
