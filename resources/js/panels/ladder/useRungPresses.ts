import type { PointerEvent, WheelEvent } from 'react';
import type { Contract, Position } from '@/api/client';
import { chooseOrder, resizeChosen } from '@/commands/chosen';
import { resizeDraft } from '@/commands/drafts';
import type { usePlacing } from '@/commands/usePlacing';
import type { useRelease } from '@/commands/useRelease';
import { useTicket } from '@/model/ticketState';
import { useTouchModifiers } from '@/model/useModifiers';
import { type Spot, spotOf } from '@/model/useSpot';
import type { useDrag } from '@/panels/chips/useDrag';
import type { useTouch } from '@/panels/chips/useTouch';
import { say } from '@/stream/store';
import type { useLadderView } from './ladderView';
import { WORDS } from './words';

const SCROLL_RUNGS = 3;

interface On {
    contract: Contract;
    zoom: number;
    setZoom: (ticks: number) => void;
    view: ReturnType<typeof useLadderView>;
    tickAt: (event: PointerEvent<HTMLElement>) => number | null;
    position: Position | undefined;
    press: ReturnType<typeof usePlacing>['press'];
    release: ReturnType<typeof useRelease>;
    touch: ReturnType<typeof useTouch>;
    dragging: ReturnType<typeof useDrag>;
}

/** What the pointer, a finger and the wheel do on the rungs. */
export function useRungPresses({ contract: { code }, zoom, setZoom, view, tickAt, position, press, release, touch, dragging }: On) {
    const keyOf = (at: Spot | null) => (at ? `${code} ${at.side} ${at.tick}` : '');

    /** A rung of several ticks has no one price: a press opens it, and the exact price is pressed then. */
    const openRung = (tick: number | null) => {
        if (tick === null) return;
        setZoom(1);
        view.centreOn(tick);
        say(WORDS.pressTheOneMeant, 'done');
    };
    const down = (event: PointerEvent<HTMLElement>) => {
        if (event.button !== 0) return;
        if (zoom > 1) return openRung(tickAt(event));
        chooseOrder(null);
        const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-part=price]');
        if (cell && useTicket.getState().open && !cell.dataset.average) {
            const tick = tickAt(event);
            if (tick !== null) useTicket.setState({ taken: { code, tick } });
            return;
        }
        if (position && (event.target as HTMLElement).closest('[data-average]')) return dragging.grabPosition(position, event);
        const at = spotOf(event);
        if (event.pointerType === 'touch' && at && touch.down(event, at)) return;
        const act = press(at, event.timeStamp);
        release.press(
            event,
            keyOf(at),
            act &&
                (() => {
                    act();
                    useTouchModifiers.setState({ modifiers: null });
                }),
        );
    };

    /** Over a chip that is chosen or held down the wheel changes its lots; anywhere else it scrolls. */
    const wheel = (event: WheelEvent<HTMLElement>) => {
        if (event.deltaY === 0) return;
        const by = event.deltaY < 0 ? 1 : -1;
        const over = (event.target as HTMLElement).closest<HTMLElement>('[data-part=chip][data-chosen]');
        const chip = dragging.held();
        if (chip?.role === 'draft' || over?.dataset.draft) resizeDraft(chip?.id ?? Number(over?.dataset.draft), by);
        else if (chip || over) resizeChosen(by);
        else view.scroll(by * SCROLL_RUNGS);
    };

    return {
        openRung,
        onPointerDown: down,
        onPointerUp: (event: PointerEvent<HTMLElement>) => {
            release.letGo(event, keyOf(spotOf(event)));
            dragging.letGo(event);
        },
        onWheel: wheel,
    };
}
