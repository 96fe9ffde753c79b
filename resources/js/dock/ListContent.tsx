import type { FunctionComponent } from 'react';
import { BarsPanel } from '@/panels/bars/BarsPanel';
import { Pinned, usePinned } from '@/panels/bars/Pinned';
import { ActionDeck } from '@/panels/deck/ActionDeck';
import { ContractList } from '@/panels/lists/ContractList';
import { LevelList } from '@/panels/lists/LevelList';
import { Fills, Journal, Positions, Working } from '@/panels/lists/scopedLists';
import { TapeList } from '@/panels/lists/TapeList';
import { RiskPanel } from '@/panels/risk/RiskPanel';
import { useShared } from './shared';

function BarsOf() {
    const { onCancel } = useShared();
    const pinned = usePinned('bars');
    return pinned.contract ? (
        <BarsPanel contract={pinned.contract} onCancel={onCancel} pin={<Pinned {...pinned} />} own={pinned.own} />
    ) : null;
}

function TapeOf() {
    const pinned = usePinned('tape');
    return pinned.contract ? <TapeList contract={pinned.contract} pin={<Pinned {...pinned} />} /> : null;
}

const CONTENTS: Record<string, FunctionComponent> = {
    working: () => <Working onCancel={useShared().onCancel} />,
    fills: Fills,
    positions: Positions,
    risk: RiskPanel,
    contracts: ContractList,
    bars: BarsOf,
    levels: LevelList,
    tape: TapeOf,
    journal: Journal,
    deck: () => <ActionDeck contract={useShared().contract} />,
};

/** What a list of the dock shows. */
export function ListContent({ id }: { id: string }) {
    const Content = CONTENTS[id];
    return Content ? <Content /> : null;
}
