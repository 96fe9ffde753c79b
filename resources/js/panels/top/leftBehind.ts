import { useDrafts } from '@/commands/drafts';
import { deskNow } from '@/stream/store';
import { WORDS } from './words';

/** What stays behind when this desk shows something else; empty where nothing does. */
export function leftBehind(): string {
    const { positions, orders } = deskNow();
    const open = Object.values(positions).filter((position) => position.quantity !== 0).length;
    return WORDS.leftBehind(open, orders.size, useDrafts.getState().list.length);
}
