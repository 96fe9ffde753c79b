import { Tabs } from 'radix-ui';
import type { FunctionComponent } from 'react';
import { useSettingsSheet } from '@/model/settingsSheetState';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { AccountsPage } from './AccountsPage';
import { ActionKeysPage } from './ActionKeysPage';
import { EntryPage } from './EntryPage';
import { KeysPage } from './KeysPage';
import { LooksPage } from './LooksPage';

const PAGES: [id: string, title: string, page: FunctionComponent][] = [
    ['entry', 'Entering', EntryPage],
    ['action-keys', 'Action keys', ActionKeysPage],
    ['keys', 'Keys', KeysPage],
    ['looks', 'Looks and sounds', LooksPage],
    ['accounts', 'Accounts', AccountsPage],
];

const close = () => useSettingsSheet.setState({ open: false });

/** Sizes, action keys, keys, looks and sounds, accounts, each on a page of one sheet. */
export function SettingsSheet() {
    const { open, page } = useSettingsSheet();
    return (
        <Sheet open={open} close={close} title="Settings" name="settings">
            <Tabs.Root value={page} onValueChange={(to) => useSettingsSheet.setState({ page: to })}>
                <Tabs.List aria-label="Settings" className="mb-8 flex gap-18">
                    {PAGES.map(([id, title]) => (
                        <Tabs.Trigger
                            key={id}
                            value={id}
                            className="cursor-pointer border-b-2 border-transparent data-[state=active]:border-ink data-[state=active]:font-bold"
                        >
                            {title}
                        </Tabs.Trigger>
                    ))}
                </Tabs.List>
                {PAGES.map(([id, , Page]) => (
                    <Tabs.Content key={id} value={id}>
                        <Page />
                    </Tabs.Content>
                ))}
            </Tabs.Root>
            <Button onClick={close}>
                Close <kbd>Esc</kbd>
            </Button>
        </Sheet>
    );
}
