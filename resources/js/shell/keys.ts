import { useEffect } from 'react';
import { breakEven, cover, giveAllBack, letNextRun, tighten } from '@/commands/actions';
import { runTile } from '@/commands/actionTiles';
import { repeatLast } from '@/commands/again';
import { chosenOrder, isChanging, leaveChange, nudgeChosen, raisesLots, resizeChosen, sendChange, useChosen } from '@/commands/chosen';
import { chosenDraft, dropDraft, moveDraft, resizeDraft, sendDraft, sendPair } from '@/commands/drafts';
import { sendPending } from '@/commands/openByButton';
import { pressQuick, QUICK, QUICK_NAMES, quickTick } from '@/commands/quick';
import { armTie } from '@/commands/tie';
import { useDock } from '@/dock/dock';
import { basisOf, groundOf } from '@/model/basis';
import { chosenContract, nextPlan, turnContract, useChoices } from '@/model/choices';
import { comboOf } from '@/model/keymap';
import type { LadderActs } from '@/model/ladderActs';
import { nextLadder } from '@/model/ladders';
import { turnOneClick, useOneClick } from '@/model/oneClick';
import { dropPending, usePending } from '@/model/pending';
import { isFor, show } from '@/model/screen';
import { lotsRow, useSettings } from '@/model/settings';
import { useSettingsSheet } from '@/model/settingsSheetState';
import { useTicket } from '@/model/ticketState';
import { say } from '@/stream/store';
import { isModalOpen } from '@/ui/modal';
import { isWritten, matches } from '@/ui/written';
import { WORDS } from './words';

/** A field that takes digits: the held keys of the panic pass through it, quick keys do not. */
const counts = (target: EventTarget | null): boolean => matches(target, 'input');

const writes = (target: EventTarget | null): boolean => isWritten(target) || matches(target, 'select, input:not([type=number])');

const takesSpace = (target: EventTarget | null): boolean => matches(target, 'button, a, input, [role=tab], [role=radio]');

const resize = (by: number) => (useChosen.getState().id === null ? resizeDraft(chosenDraft()?.id ?? null, by) : resizeChosen(by));

const listed = (code: string | undefined) => useChoices.getState().contracts.find((contract) => contract.code === code);

/** A draft or an order moves by the ticks of its own contract, whichever is in front. */
function nudge(by: number): void {
    const draft = chosenDraft();
    const contract = listed(draft?.contract);
    if (useChosen.getState().id !== null) nudgeChosen(by);
    else if (draft && contract) moveDraft(draft.id, draft.tick + by, contract);
}

function send(asSecond: boolean): void {
    const chosen = useChosen.getState();
    const order = chosenOrder();
    const contract = listed(order?.contract);
    if (contract && order && isChanging(chosen)) sendChange(contract, asSecond && raisesLots(chosen, order));
    else if (asSecond) sendDraft(chosenDraft()?.id ?? null);
}

/** Keys that act at once. */
export function useQuickKeys(ladder: { readonly current: LadderActs | null }): void {
    useEffect(() => {
        const lots = (at: number) => () => {
            const { code } = useChoices.getState();
            useChoices.setState({ lots: lotsRow(useSettings.getState(), code)[at] ?? 1 });
        };
        const acts: Record<string, (at: number) => void> = {
            send: () => (usePending.getState().pending ? sendPending() : send(true)),
            'send-itself': () => send(false),
            drop: () => {
                if (usePending.getState().pending) dropPending();
                else if (useChosen.getState().id === null) dropDraft(chosenDraft()?.id ?? null);
                else leaveChange();
            },
            place: () => ladder.current?.place(),
            'more-lots': () => resize(1),
            'fewer-lots': () => resize(-1),
            up: () => nudge(1),
            down: () => nudge(-1),
            'one-click': () => turnOneClick(!useOneClick.getState().on),
            'lots-1': lots(0),
            'lots-2': lots(1),
            'lots-3': lots(2),
            'lots-4': lots(3),
            'lots-5': lots(4),
            'next-plan': nextPlan,
            'contract-before': () => turnContract(-1),
            'contract-after': () => turnContract(1),
            'next-ladder': nextLadder,
            centre: () => ladder.current?.recentre(),
            'break-even': () => void breakEven(groundOf()),
            'break-even-fees': () => void breakEven(groundOf(), true),
            'let-run': () => letNextRun(groundOf()),
            'give-back': () => giveAllBack(groundOf()),
            cover: () => void cover(groundOf(), useChoices.getState().plan),
            'exit-here': () => ladder.current?.exitHere(),
            arrange: () => useDock.setState(({ arranging }) => ({ arranging: !arranging })),
            mark: () => ladder.current?.markHere(),
            closer: () => void tighten(groundOf(), useChoices.getState().closer),
            again: repeatLast,
            pair: sendPair,
            tie: armTie,
            ticket: () => useTicket.setState(({ open }) => ({ open: !open })),
            plans: () => show('plans'),
            settings: () => useSettingsSheet.setState({ open: true }),
        };
        /** As the button of that name does, for the contract in front and the price that stands there as the key goes down. */
        const quick = (name: string) => (at: number) => {
            const contract = chosenContract(useChoices.getState());
            const tick = contract && QUICK[name] ? quickTick(QUICK[name], contract.code) : null;
            if (contract && tick !== null) pressQuick(name, contract, tick, basisOf(contract.code), at);
            else say(WORDS.noPrice);
        };
        for (const [name] of QUICK_NAMES) acts[name] = quick(name);
        /** Keys that may come again while they are held down. */
        const again = new Set(['more-lots', 'fewer-lots', 'up', 'down', 'contract-before', 'contract-after']);
        const press = (event: KeyboardEvent) => {
            if (event.defaultPrevented || !isFor('desk', event) || writes(event.target) || counts(event.target) || isModalOpen()) return;
            const combo = comboOf(event);
            const { keys, 'action-keys': deck } = useSettings.getState();
            const id = Object.entries(keys.keys).find(([, key]) => key === combo)?.[0] ?? '';
            const tile = deck.tiles.find((candidate) => candidate.key === combo);
            const act = acts[id] ?? (tile && (() => void runTile(tile)));
            if (!act || (takesSpace(event.target) && ['Space', 'Enter', 'Shift+Enter'].includes(combo)) || (event.repeat && !again.has(id)))
                return;
            act(event.timeStamp);
            event.preventDefault();
        };
        window.addEventListener('keydown', press);
        return () => window.removeEventListener('keydown', press);
    }, [ladder]);
}
