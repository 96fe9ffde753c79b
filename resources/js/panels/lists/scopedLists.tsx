import { create } from 'zustand';
import { useChoices } from '@/model/choices';
import { useDesk } from '@/stream/store';
import { FillList } from './FillList';
import { JournalList } from './JournalList';
import { PositionList } from './PositionList';
import { WorkingList } from './WorkingList';

const useScope = create<{ onlyThis: boolean }>(() => ({ onlyThis: false }));

/** Whether the lists show every contract, or only the one on the ladder in front. */
export function useListScope() {
    const { onlyThis } = useScope();
    const code = useChoices((choices) => choices.code);
    return {
        onlyThis,
        code,
        turn: () => useScope.setState({ onlyThis: !onlyThis }),
        kept: <Row extends { contract: string | null }>(rows: Row[]): Row[] =>
            onlyThis ? rows.filter((row) => row.contract === code) : rows,
    };
}

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
