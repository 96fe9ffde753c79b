import { Tabs } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { useSettingsSheet } from '@/model/settingsSheetState';
import { ActionKeysPage } from './ActionKeysPage';
import { EntryPage } from './EntryPage';
import { KeysPage } from './KeysPage';
import { LooksPage } from './LooksPage';

/** Sizes, action keys, keys, looks and sounds, each on a page of one sheet. */
export function SettingsSheet() {
    const { open, page } = useSettingsSheet();
    const sheet = useRef<HTMLDialogElement>(null);
    const [shown, setShown] = useState(0);
    useEffect(() => {
        if (open && !sheet.current?.open) {
            setShown((count) => count + 1);
            sheet.current?.showModal();
        }
        if (!open) sheet.current?.close();
    }, [open]);
    return (
        <dialog
            ref={sheet}
            className="help settings"
            aria-labelledby="settings-title"
            onClose={() => useSettingsSheet.setState({ open: false })}
        >
            <h2 id="settings-title">Settings</h2>
            {open && (
                <Tabs.Root key={shown} value={page} onValueChange={(to) => useSettingsSheet.setState({ page: to })}>
                    <Tabs.List aria-label="Settings">
                        <Tabs.Trigger value="entry">Entering</Tabs.Trigger>
                        <Tabs.Trigger value="action-keys">Action keys</Tabs.Trigger>
                        <Tabs.Trigger value="keys">Keys</Tabs.Trigger>
                        <Tabs.Trigger value="looks">Looks and sounds</Tabs.Trigger>
                    </Tabs.List>
                    <Tabs.Content value="entry">
                        <EntryPage />
                    </Tabs.Content>
                    <Tabs.Content value="action-keys">
                        <ActionKeysPage />
                    </Tabs.Content>
                    <Tabs.Content value="keys">
                        <KeysPage />
                    </Tabs.Content>
                    <Tabs.Content value="looks">
                        <LooksPage />
                    </Tabs.Content>
                </Tabs.Root>
            )}
            <button type="button" className="order-button" onClick={() => useSettingsSheet.setState({ open: false })}>
                Close <kbd>Esc</kbd>
            </button>
        </dialog>
    );
}
