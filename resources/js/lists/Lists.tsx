import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { ActionDeck } from '@/desk/ActionDeck';
import { chosenContract, useChoices } from '@/desk/choices';
import { useKeyOf } from '@/desk/keymap';
import { useSettingsSheet } from '@/desk/SettingsSheet';
import { TicketButton } from '@/desk/Ticket';
import { nextTheme, useTheme } from '@/shell/theme';
import { useDesk } from '@/stream/store';
import { toggleSounds, useSounds } from '@/ui/sounds';
import { BarsPanel } from '@/watch/BarsPanel';
import { Pinned, usePinned } from '@/watch/Pinned';
import { Clock } from './Clock';
import { ContractList } from './ContractList';
import { FillList } from './FillList';
import { JournalList } from './JournalList';
import { LevelList } from './LevelList';
import { ListsGrip } from './ListsGrip';
import { PositionList } from './PositionList';
import { TapeList } from './TapeList';
import { WorkingList } from './WorkingList';

/** The lower lists: they fold to one line, and can be kept to the contract on the ladder. */
export function Lists({ onCancel }: { onCancel: (id: number) => void }) {
    const orders = useDesk((desk) => desk.orders);
    const fills = useDesk((desk) => desk.fills);
    const positions = useDesk((desk) => desk.positions);
    const notices = useDesk((desk) => desk.notices);
    const code = useChoices((choices) => choices.code);
    const contract = useChoices(chosenContract);
    const bars = usePinned('bars');
    const tape = usePinned('tape');
    const account = useChoices((choices) => choices.account);
    const theme = useTheme((state) => state.theme);
    const sounds = useSounds((state) => state.on);
    const settingsKey = useKeyOf('settings');
    const [folded, setFolded] = useState(false);
    const [onlyThis, setOnlyThis] = useState(false);
    const [tab, setTab] = useState('working');
    const kept = <Row extends { contract: string | null }>(rows: Row[]): Row[] => (onlyThis ? rows.filter((row) => row.contract === code) : rows);
    const working = kept([...orders.values()]).sort((a, b) => b.id - a.id);
    const done = kept(fills);
    const held = kept(Object.values(positions).filter((position) => position.sequence > 0));
    return (
        <Tabs.Root className={folded ? 'lists folded' : 'lists'} value={tab} onValueChange={setTab}>
            <ListsGrip />
            <div className="lists-head">
                <Tabs.List aria-label="Lists">
                    <Tabs.Trigger value="working">Working {working.length}</Tabs.Trigger>
                    <Tabs.Trigger value="fills">Fills {done.length}</Tabs.Trigger>
                    <Tabs.Trigger value="positions">Positions {held.filter((position) => position.quantity !== 0).length}</Tabs.Trigger>
                    <Tabs.Trigger value="contracts">Contracts</Tabs.Trigger>
                    <Tabs.Trigger value="bars">Bars</Tabs.Trigger>
                    <Tabs.Trigger value="levels">Levels</Tabs.Trigger>
                    <Tabs.Trigger value="tape">Tape</Tabs.Trigger>
                    <Tabs.Trigger value="journal">Journal</Tabs.Trigger>
                    <Tabs.Trigger value="deck">Action keys</Tabs.Trigger>
                </Tabs.List>
                <Clock />
                <span className="lists-tools">
                    <TicketButton />
                    <button type="button" className="order-button small" data-action="settings" onClick={() => useSettingsSheet.setState({ open: true })}>
                        Settings <kbd>{settingsKey}</kbd>
                    </button>
                    <button type="button" className="order-button small" data-action="only-this" aria-pressed={onlyThis} onClick={() => setOnlyThis(!onlyThis)}>
                        {onlyThis ? `only ${code}` : 'all contracts'}
                    </button>
                    <button type="button" className="order-button small" data-action="sounds" aria-pressed={sounds} onClick={toggleSounds}>
                        Sounds {sounds ? 'on' : 'off'}
                    </button>
                    <button type="button" className="order-button small" data-action="theme" onClick={nextTheme}>
                        Look: {theme}
                    </button>
                    <button type="button" className="order-button small" data-action="fold" aria-expanded={!folded} onClick={() => setFolded(!folded)}>
                        {folded ? 'unfold' : 'fold'}
                    </button>
                </span>
            </div>
            <Tabs.Content value="working" className="list">
                <WorkingList rows={working} onCancel={onCancel} />
            </Tabs.Content>
            <Tabs.Content value="fills" className="list">
                <FillList rows={done} />
            </Tabs.Content>
            <Tabs.Content value="positions" className="list">
                <PositionList rows={held} />
            </Tabs.Content>
            <Tabs.Content value="contracts" className="list">
                <ContractList />
            </Tabs.Content>
            <Tabs.Content value="bars" className="list">
                {bars.contract && account && <BarsPanel account={account} contract={bars.contract} onCancel={onCancel} pin={<Pinned {...bars} />} />}
            </Tabs.Content>
            <Tabs.Content value="levels" className="list">
                <LevelList />
            </Tabs.Content>
            <Tabs.Content value="tape" className="list">
                {tape.contract && <TapeList contract={tape.contract} pin={<Pinned {...tape} />} />}
            </Tabs.Content>
            <Tabs.Content value="journal" className="list">
                <JournalList rows={kept(notices)} />
            </Tabs.Content>
            <Tabs.Content value="deck" className="list">
                {contract && <ActionDeck contract={contract} />}
            </Tabs.Content>
        </Tabs.Root>
    );
}
