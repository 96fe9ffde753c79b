import { useEffect, useRef } from 'react';
import { useListScope } from '@/panels/lists/listScope';
import { useDesk } from '@/stream/store';

/** How many rows wait behind a tab. The dock names its tabs without it, so the name is put right. */
export function TabCount({ panel, title }: { panel: string; title: string }) {
    const { kept } = useListScope();
    const place = useRef<HTMLElement>(null);
    const count = useDesk((desk) => {
        if (panel === 'working') return kept([...desk.orders.values()]).length;
        if (panel === 'fills') return kept(desk.fills).length;
        if (panel === 'positions') return kept(Object.values(desk.positions)).filter((position) => position.quantity !== 0).length;
        return null;
    });
    useEffect(() => {
        if (count !== null) place.current?.closest('[role=tab]')?.setAttribute('aria-label', `${title} ${count}`);
    }, [count, title]);
    return count === null ? null : (
        <b ref={place} className="font-[inherit]">
            {' '}
            {count}
        </b>
    );
}
