import { create } from 'zustand';
import { useChoices } from '@/model/choices';

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
