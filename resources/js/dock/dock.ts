import type { DockviewApi, DockviewPanelApi, SerializedDockview } from 'dockview-react';
import * as z from 'zod/mini';
import { create } from 'zustand';
import { laddersNow, openLadders } from '@/model/ladders';
import { type Layout, useSettings } from '@/model/settings';
import { createKept } from '@/ui/kept';
import { useLetters } from '@/ui/letters';

/** The panels that can be hidden and brought back, by their id; ladders come and go by themselves. */
export const PANELS: Record<string, string> = {
    cards: 'Position and order',
    working: 'Orders',
    fills: 'Fills',
    positions: 'Positions',
    risk: 'Risk',
    contracts: 'Contracts',
    bars: 'Bars',
    levels: 'Levels',
    tape: 'Tape',
    journal: 'Journal',
    deck: 'Action keys',
};

/** As the dock itself writes it; null before anything was arranged in this browser. */
const useKeptDock = createKept<{ dock: string | null }>('dock', { dock: z.nullable(z.string()) }, { dock: null });
/** Within this room all that protects and closes is in sight, in pixels. */
const CARDS_ROOM = { minimumWidth: 340, maximumWidth: 560, minimumHeight: 384 };
/** The lower lists folded to their tabs, in pixels. */
export const TABS_HEIGHT = 30;
/** The least that a ladder is drawn in, in pixels. */
export const LADDER_WIDTH = 300;
/** From this width of the window on the bars have a place of their own, which is this part of it. */
const WIDE = 1700;
const BESIDE = 0.42;

/** How the lower lists stand: folded to their tabs, as they are at first, or over half of the desk. */
type ListsHeight = 'folded' | 'usual' | 'tall';

/** From this part of the desk's height on they are tall. */
const TALL = 0.45;

interface Dock {
    api: DockviewApi | null;
    /** panels can be moved, hidden and given windows of their own */
    arranging: boolean;
    /** counts changes, so that what is made from the dock is made anew */
    changes: number;
    lists: ListsHeight;
}

export const useDock = create<Dock>(() => ({ api: null, arranging: false, changes: 0, lists: 'usual' }));

export const ladderPanel = (id: number): string => `ladder-${id}`;

/** An arrangement of the desk: where the panels are, and what each ladder holds. */
export type Arrangement = Omit<Layout, 'name'>;

export function arrangementNow(): Arrangement | null {
    const { api } = useDock.getState();
    return (
        api && { dock: JSON.stringify(api.toJSON()), ladders: laddersNow().map(({ id, code, lots, plan }) => ({ id, code, lots, plan })) }
    );
}

export function keepArrangement(): void {
    const now = arrangementNow();
    if (now) useKeptDock.setState({ dock: now.dock });
}

/** The height or width that a stylesheet gives for this size of window, in pixels. */
const sized = (name: string): number => Number.parseInt(getComputedStyle(document.documentElement).getPropertyValue(name), 10);

/** What the position and the order need with letters of the chosen size, in pixels. */
export const cardsWidth = (): number => Math.round(sized('--cards') * Number(useLetters.getState().size));

/** Ladders beside the position and the order, the lists below. */
export function standardArrangement(api: DockviewApi): void {
    api.clear();
    let beside: string | null = null;
    for (const { id } of laddersNow()) beside = addLadderPanel(api, id, beside);
    api.addPanel({
        id: 'cards',
        component: 'cards',
        title: PANELS.cards,
        position: { direction: 'right' },
        initialWidth: cardsWidth(),
        ...CARDS_ROOM,
    });
    for (const id of Object.keys(PANELS).filter((panel) => panel !== 'cards')) showPanel(api, id);
    if (window.innerWidth >= WIDE) besideLists(api, 'bars');
    api.getPanel('working')?.api.setActive();
    shareWidth(laddersNow().map(({ id }) => api.getPanel(ladderPanel(id))?.api));
    api.getPanel('cards')?.api.setSize({ width: cardsWidth() });
}

/** A list that stands open beside the others. */
function besideLists(api: DockviewApi, id: string): void {
    api.getPanel(id)?.api.close();
    api.addPanel({
        id,
        component: id,
        title: PANELS[id],
        minimumHeight: TABS_HEIGHT,
        initialWidth: Math.round(window.innerWidth * BESIDE),
        position: { referencePanel: 'working', direction: 'right' },
    });
}

/** Ladders side by side are equally wide when one comes or goes; edges that are dragged stand until then. `more` is width to come, in pixels. */
export function shareWidth(ladders: (DockviewPanelApi | undefined)[], more = 0): void {
    const width = Math.floor(ladders.reduce((sum, ladder) => sum + (ladder?.width ?? 0), more) / Math.max(1, ladders.length));
    for (const ladder of ladders.slice(0, -1)) ladder?.setSize({ width });
}

export function addLadderPanel(api: DockviewApi, ladder: number, beside: string | null): string {
    const id = ladderPanel(ladder);
    api.addPanel({
        id,
        component: 'ladder',
        title: `Ladder ${ladder}`,
        params: { ladder },
        minimumWidth: LADDER_WIDTH,
        ...(beside !== null && { position: { referencePanel: beside, direction: 'right' } }),
    });
    return id;
}

/** Brings a panel back: a list among the lists, the cards at the right. */
export function showPanel(api: DockviewApi, id: string): void {
    if (api.getPanel(id)) return;
    const lists = Object.keys(PANELS).filter((panel) => panel !== 'cards');
    const other = lists.find((panel) => api.getPanel(panel));
    if (id === 'cards')
        api.addPanel({
            id,
            component: id,
            title: PANELS[id],
            position: { direction: 'right' },
            initialWidth: cardsWidth(),
            ...CARDS_ROOM,
        });
    else if (other)
        api.addPanel({
            id,
            component: id,
            title: PANELS[id],
            inactive: true,
            minimumHeight: TABS_HEIGHT,
            position: { referencePanel: other, direction: 'within' },
        });
    else
        api.addPanel({
            id,
            component: id,
            title: PANELS[id],
            position: { direction: 'below' },
            minimumHeight: TABS_HEIGHT,
            initialHeight: sized('--lists'),
        });
}

/** Where an arrangement cannot be read, the standard one stands. Gives back whether it could. */
export function openDock(api: DockviewApi, dock: string | null): boolean {
    try {
        if (dock !== null) {
            api.fromJSON(JSON.parse(dock) as SerializedDockview);
            // Position and flatten are never without a place.
            if (api.panels.length > 0) showPanel(api, 'cards');
            // Kept by an earlier build, it may be smaller.
            api.getPanel('cards')?.group.api.setConstraints(CARDS_ROOM);
            if (api.panels.length > 0) return true;
        }
    } catch {
        // An arrangement of another build, or one that was edited by hand.
    }
    standardArrangement(api);
    return dock === null;
}

/** What this browser left; else the layout that was opened last, wherever that was. */
export function openFirst(api: DockviewApi): void {
    const { opens, layouts } = useSettings.getState().layouts;
    const { dock } = useKeptDock.getState();
    const layout = dock === null ? layouts.find((one) => one.name === opens) : undefined;
    if (layout) openLadders(layout.ladders);
    openDock(api, layout?.dock ?? dock);
}

/** Throws nothing away but the view: orders and positions stay as they are. */
export function openArrangement(arrangement: Arrangement): boolean {
    const { api } = useDock.getState();
    openLadders(arrangement.ladders);
    return api !== null && openDock(api, arrangement.dock);
}

/** By the height that they have, whoever gave it to them: a press, an edge that was dragged, the last visit. */
export function lookAtLists(api: DockviewApi): void {
    const height = api.getPanel('working')?.group.api.height;
    if (height === undefined) return;
    const lists = height <= TABS_HEIGHT ? 'folded' : height >= api.height * TALL ? 'tall' : 'usual';
    if (lists !== useDock.getState().lists) useDock.setState({ lists });
}

function sizeLists(to: ListsHeight): void {
    const { api } = useDock.getState();
    const height = to === 'folded' ? TABS_HEIGHT : to === 'tall' ? Math.round((api?.height ?? 0) / 2) : sized('--lists');
    api?.getPanel('working')?.group.api.setSize({ height });
}

/** Folds the group that holds the working orders to its tabs, or gives it back its height. */
export const foldLists = (): void => sizeLists(useDock.getState().lists === 'folded' ? 'usual' : 'folded');

/** Gives it half of the desk, or its usual height. */
export const growLists = (): void => sizeLists(useDock.getState().lists === 'tall' ? 'usual' : 'tall');

/** A panel in a window of its own: for another monitor, living from the same stream. */
export function ownWindow(api: DockviewApi, id: string): void {
    const panel = api.getPanel(id);
    const [width, height] = [Math.max(panel?.api.width ?? 0, 900), Math.max(panel?.api.height ?? 0, 640)];
    if (panel)
        void api.addPopoutGroup(panel, {
            popoutUrl: '/window',
            position: { left: window.screenX + 60, top: window.screenY + 60, width, height },
        });
}
