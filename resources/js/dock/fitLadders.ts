import type { DockviewApi } from 'dockview-react';
import { useLadders } from '@/model/ladders';
import { cardsWidth, LADDER_WIDTH, ladderPanel } from './dock';

/**
 * As many ladders stand side by side as have room beside the position and the order; the others wait behind them, out of sight. The one
 * in front is always there.
 */
export function fitLadders(api: DockviewApi): void {
    const { list, front } = useLadders.getState();
    const inGrid = list.filter(({ id }) => api.getPanel(ladderPanel(id))?.api.location.type === 'grid');
    const room = Math.max(1, Math.floor((api.width - cardsWidth()) / LADDER_WIDTH));
    const groupOf = (id: number) => api.getPanel(ladderPanel(id))?.group.api;
    const inSight = inGrid.filter(({ id }) => groupOf(id)?.isVisible);
    // A press on one that is in sight brings it in front where it is: no ladder moves under the pointer.
    const stands = inSight.length === Math.min(room, inGrid.length) && inSight.some(({ id }) => id === front);
    // Else those that follow the one in front stand beside it; near the end those before it do.
    const first = inGrid.findIndex(({ id }) => id === front);
    const from = Math.max(0, Math.min(first, inGrid.length - room));
    const shown = stands ? inSight : inGrid.slice(from, from + room);
    const cards = api.getPanel('cards')?.group.api;
    const width = cards?.width;
    let isChanged = false;
    for (const ladder of inGrid) {
        const group = groupOf(ladder.id);
        const isShown = shown.includes(ladder);
        if (!group || group.isVisible === isShown) continue;
        group.setVisible(isShown);
        isChanged = true;
    }
    // What comes or goes takes its room from the ladders alone.
    if (isChanged && cards?.location.type === 'grid') cards.setSize({ width });
    const hidden = inGrid.filter((ladder) => !shown.includes(ladder)).map(({ id }) => id);
    if (useLadders.getState().hidden.join() !== hidden.join()) useLadders.setState({ hidden });
}
