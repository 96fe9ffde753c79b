import { useMemo } from 'react';
import type { Contract } from '@/api/client';
import { type Basis, bodyOf, type More, useBasis } from '@/model/basis';
import { kindOfClick, levelOf, PLAIN } from '@/model/clickKind';
import type { LadderState } from '@/model/ladders';
import { usedOneClick, useOneClick } from '@/model/oneClick';
import { price, writePrice } from '@/model/prices';
import { isSecondPress, wasPressed } from '@/model/secondPress';
import { whyNoLots } from '@/model/sizing';
import type { Modifiers } from '@/model/useModifiers';
import type { Spot } from '@/model/useSpot';
import { say, useDesk } from '@/stream/store';
import { move, place } from './actions';
import { addDraft, type Draft, useDrafts } from './drafts';
import { type Ghost, type GhostWords, useGhostWords } from './useGhost';
import { WORDS } from './words';

/** Kinds as chips and the strip write them. */
export const kindWord = (kind: string): string => (kind === 'mit' ? 'MIT' : kind);

interface Surface {
    /** false while its prices have only just moved under the pointer */
    isSettled: boolean;
    /** false where neighbouring prices lie so close that a press makes a draft, whatever one-click says */
    isPrecise: boolean;
    /** false where no ladder shows its contract in front, so that a draft of it could not be sent */
    takesPresses: boolean;
    /** what a ladder has that is not in front: its own lots, plan and one-click go with a press there; null for what is chosen */
    own: Pick<LadderState, 'lots' | 'plan' | 'oneClick'> | null;
}

type Where = Pick<Spot, 'tick' | 'side'>;

interface Placing {
    /** what a press here would send, or make a draft of */
    ghost: Ghost | null;
    /** the ghost, else the draft that is chosen */
    shown: Ghost | Draft | null;
    draft: Draft | undefined;
    words: GhostWords | null;
    /** what a press with Shift does where another closing stop would be one too many; empty where it does something else */
    moves: string;
    /** whether a press sends at once, and makes no draft */
    sends: boolean;
    /** the ghost at its price, in a few words */
    says: string;
    /**
     * All of it is taken as the button goes down; what it gives back does it, where it is let go.
     *
     * @param where the button went down: a press is only sent where its ghost had been shown
     * @param at    when it went down, not when a busy page came to hear of it: the event's time stamp, ms
     */
    press: (where: Where | null, at: number) => (() => void) | null;
}

/** What is different for the next order belongs to the ladder in front. */
function basisOfOwn({ change: _change, ...chosen }: Basis, { lots, plan }: Pick<LadderState, 'lots' | 'plan'>): Basis {
    return { ...chosen, lots, plan };
}

/**
 * Placing by a press at a price: one way for the ladder and for the bars. What the ghost says is what is sent, taken
 * as the button goes down; a price that has just moved under the pointer sends nothing.
 */
export function usePlacing(
    contract: Contract,
    spot: Spot | null,
    modifiers: Modifiers,
    { isSettled, isPrecise, takesPresses, own }: Surface,
): Placing {
    const { code } = contract;
    const book = useDesk((desk) => desk.books[code]);
    const sequence = useDesk((desk) => desk.positions[code]?.sequence);
    const chosen = useBasis(code);
    const basis = useMemo(() => (own === null ? chosen : basisOfOwn(chosen, own)), [chosen, own]);
    const { lots } = basis;
    const frontOneClick = useOneClick((state) => state.on);
    const oneClick = own === null ? frontOneClick : own.oneClick;
    const draft = useDrafts((state) => state.list.find((candidate) => candidate.id === state.chosen && candidate.contract === code));

    const covering = useDesk((desk) => desk.orders.get(desk.positions[code]?.covered_by ?? 0));
    const isStopHere = spot !== null && book !== undefined && kindOfClick(spot.side, spot.tick, book, PLAIN) === 'stop';
    const moving = covering && isStopHere && covering.side === spot.side && modifiers.shift && !modifiers.alt ? covering : null;

    const ghost = useMemo<Ghost | null>(() => {
        const kind = spot && book && !moving ? kindOfClick(spot.side, spot.tick, book, modifiers) : null;
        return spot && kind ? { tick: spot.tick, side: spot.side, ...levelOf(contract, kind, spot.tick, spot.side) } : null;
    }, [spot, book, contract, modifiers, moving]);

    const shown = takesPresses ? (ghost ?? draft ?? null) : null;
    // A draft's stop can be passed by the market while it waits: where it now stands to the market is asked for anew.
    const now = draft && !ghost && book ? kindOfClick(draft.side, draft.tick, book, PLAIN) : '';
    const words = useGhostWords(
        lots === 0 && ghost ? null : shown && bodyOf(shown, ghost ? basis : (draft ?? basis)),
        `${sequence ?? 0} ${now}`,
    );
    const atOnce = oneClick && isPrecise && !modifiers.draft;
    // What only closes is one press in both ways.
    const sends = atOnce || (!modifiers.draft && isPrecise && words?.closesOnly === true);

    const press = (pressed: Where | null, at: number): (() => void) | null => {
        const not = (why: string) => {
            say(WORDS.notSent(why));
            return null;
        };
        if (pressed === null) return null;
        if (lots === 0 && !moving) return not(whyNoLots());
        if (!takesPresses) return not(WORDS.ladderNotInFront);
        if (spot?.tick !== pressed.tick || spot.side !== pressed.side) return not(WORDS.notShownYet);
        if (moving && isSettled) return () => move(moving, price(contract, pressed.tick));
        if (ghost === null) return null;
        const where = `${code} ${ghost.side} ${ghost.tick}`;
        if (isSecondPress(where, at, `${lots} ${ghost.kind} at ${writePrice(contract, ghost.tick)}`)) return null;
        if (!isSettled) return not(WORDS.rungsJustMoved);
        const { tick, ...placement } = ghost;
        if (sends && words?.refused) return not(words.words);
        // "closes 2 of 2" stays a close: were the position gone as it arrives, it would else open two lots.
        const more: More = words?.closesOnly ? { closing: 'close' } : {};
        return () => {
            wasPressed(where, at);
            if (!sends) return addDraft({ ...placement, ...basis, tick, more });
            usedOneClick();
            void place(bodyOf(placement, basis, more));
        };
    };

    const moves =
        moving && spot && moving.level !== null
            ? WORDS.moveStop(moving.id, writePrice(contract, moving.level), writePrice(contract, spot.tick))
            : '';

    return {
        ghost,
        shown,
        draft,
        words,
        moves,
        press,
        sends,
        says: moving
            ? 'move the stop'
            : ghost && lots === 0
              ? 'no lots'
              : ghost
                ? `${lots} ${kindWord(ghost.kind)}${sends ? '' : ' · draft'}`
                : '',
    };
}
