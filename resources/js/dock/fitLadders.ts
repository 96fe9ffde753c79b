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
    const first = inGrid.findIndex(({ id }) => id === front);
    // Those that follow the one in front stand beside it; near the end those before it do.
    const from = Math.max(0, Math.min(first, inGrid.length - room));
    const shown = inGrid.length <= room ? inGrid : inGrid.slice(from, from + room);
    const cards = api.getPanel('cards')?.group.api;
    const width = cards?.width;
    let isChanged = false;
    for (const ladder of inGrid) {
        const group = api.getPanel(ladderPanel(ladder.id))?.group.api;
        const isShown = shown.includes(ladder);
        if (!group || group.isVisible === isShown) continue;
        group.setVisible(isShown);
        isChanged = true;
    }
    // What comes or goes takes its room from the ladders alone.
    if (isChanged && cards?.location.type === 'grid') cards.setSize({ width });
    const hidden = inGrid.length - shown.length;
    if (useLadders.getState().hidden !== hidden) useLadders.setState({ hidden });
}
