import { useListScope } from '@/lists/kept';
import { useDesk } from '@/stream/store';

/** How many rows wait behind a tab. */
export function TabCount({ panel }: { panel: string }) {
    const { kept } = useListScope();
    const count = useDesk((desk) => {
        if (panel === 'working') return kept([...desk.orders.values()]).length;
        if (panel === 'fills') return kept(desk.fills).length;
        if (panel === 'positions') return kept(Object.values(desk.positions)).filter((position) => position.quantity !== 0).length;
        return null;
    });
    return count === null ? null : <b> {count}</b>;
}
