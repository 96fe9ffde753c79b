import { lazy, Suspense } from 'react';
import { useSettingsSheet } from '@/model/settingsSheetState';
import { Sheet } from '@/ui/Sheet';
import { Renewed } from './Renewed';

function NewerPage() {
    const open = useSettingsSheet((sheet) => sheet.open);
    return (
        <Sheet open={open} close={() => useSettingsSheet.setState({ open: false })} title="Settings" name="settings">
            <Renewed />
        </Sheet>
    );
}

/** Fetched once the desk is drawn, which does not wait for it. */
const SettingsSheet = lazy(() =>
    import('@/panels/settings/SettingsSheet').then(
        ({ SettingsSheet: sheet }) => ({ default: sheet }),
        () => ({ default: NewerPage }),
    ),
);

export function Settings() {
    return (
        <Suspense>
            <SettingsSheet />
        </Suspense>
    );
}
