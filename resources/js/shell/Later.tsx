import { lazy, Suspense } from 'react';
import { useDaySheet } from '@/model/daySheet';
import { useSettingsSheet } from '@/model/settingsSheetState';
import { Renewed } from '@/ui/Renewed';
import { Sheet } from '@/ui/Sheet';

interface Opens {
    (): { open: boolean };
    setState(part: { open: boolean }): void;
}

/** In place of what cannot be fetched any more: the server has a newer page. */
const newer = (useOpen: Opens, title: string, name: string) =>
    function NewerPage() {
        const { open } = useOpen();
        return (
            <Sheet open={open} close={() => useOpen.setState({ open: false })} title={title} name={name}>
                <Renewed />
            </Sheet>
        );
    };

const SettingsSheet = lazy(() =>
    import('@/panels/settings/SettingsSheet').then(
        ({ SettingsSheet: sheet }) => ({ default: sheet }),
        () => ({ default: newer(useSettingsSheet, 'Settings', 'settings') }),
    ),
);

const DaySheet = lazy(() =>
    import('@/panels/day/DaySheet').then(
        ({ DaySheet: sheet }) => ({ default: sheet }),
        () => ({ default: newer(useDaySheet, 'The trading day', 'day') }),
    ),
);

/** Sheets that are fetched once the desk is drawn, which does not wait for them. */
export function Later() {
    return (
        <Suspense>
            <SettingsSheet />
            <DaySheet />
        </Suspense>
    );
}
