import { useDesk } from '@/stream/store';
import { FillList } from './FillList';
import { JournalList } from './JournalList';
import { useListScope } from './listScope';
import { PositionList } from './PositionList';
import { WorkingList } from './WorkingList';

export function Working({ onCancel }: { onCancel: (id: number) => void }) {
    const orders = useDesk((desk) => desk.orders);
    return (
        <WorkingList
            rows={useListScope()
                .kept([...orders.values()])
                .sort((a, b) => b.id - a.id)}
            onCancel={onCancel}
        />
    );
}

export function Fills() {
    return <FillList rows={useListScope().kept(useDesk((desk) => desk.fills))} />;
}

export function Positions() {
    const positions = useDesk((desk) => desk.positions);
    return <PositionList rows={useListScope().kept(Object.values(positions).filter((position) => position.sequence > 0))} />;
}

export function Journal() {
    return <JournalList rows={useListScope().kept(useDesk((desk) => desk.notices))} />;
}
