import type { ComponentType } from 'react';
import { useSettingsSheet } from '@/model/settingsSheetState';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { Tabs } from '@/ui/Tabs';
import { AccountsPage } from './AccountsPage';
import { ActionKeysPage } from './ActionKeysPage';
import { CalendarPage } from './CalendarPage';
import { EntryPage } from './EntryPage';
import { KeysPage } from './KeysPage';
import { LimitsPage } from './LimitsPage';
import { LooksPage } from './LooksPage';

const PAGES: [id: string, title: string, page: ComponentType][] = [
    ['entry', 'Entering', EntryPage],
    ['action-keys', 'Action keys', ActionKeysPage],
    ['keys', 'Keys', KeysPage],
    ['looks', 'Looks and sounds', LooksPage],
    ['accounts', 'Accounts', AccountsPage],
    ['limits', 'Limits', LimitsPage],
    ['calendar', 'Calendar', CalendarPage],
];

const close = () => useSettingsSheet.setState({ open: false });

/** Sizes, action keys, keys, looks and sounds, accounts, limits and the calendar, each on a page of one sheet. */
export function SettingsSheet() {
    const { open, page } = useSettingsSheet();
    return (
        <Sheet open={open} close={close} title="Settings" name="settings">
            <Tabs label="Settings" pages={PAGES} value={page} set={(to) => useSettingsSheet.setState({ page: to })} />
            <Button onClick={close}>
                Close <kbd>Esc</kbd>
            </Button>
        </Sheet>
    );
}
