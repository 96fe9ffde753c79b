import { useKeyOf } from '@/model/keymap';
import { useSettingsSheet } from '@/model/settingsSheetState';
import { Clock } from '@/panels/lists/Clock';
import { useListScope } from '@/panels/lists/listScope';
import { TicketButton } from '@/panels/ticket/TicketButton';
import { Button } from '@/ui/Button';
import { Popover } from '@/ui/Popover';
import { toggleSounds, useSounds } from '@/ui/sounds';
import { nextTheme, useTheme } from '@/ui/theme';
import { foldLists, growLists, useDock } from './dock';
import { WORDS } from './words';

interface Props {
    /** what is pressed seldom stands behind one button */
    narrow: boolean;
}

/** The clock, and what changes the desk as a whole. */
export function ListsTools({ narrow }: Props) {
    const { onlyThis, code, turn } = useListScope();
    const theme = useTheme((state) => state.theme);
    const sounds = useSounds((state) => state.on);
    const settingsKey = useKeyOf('settings');
    const { arranging, lists } = useDock();
    const seldom = (
        <>
            <Button tone="small" data-action="settings" onClick={() => useSettingsSheet.setState({ open: true })}>
                Settings <kbd>{settingsKey}</kbd>
            </Button>
            <Button tone="small" data-action="arrange" aria-pressed={arranging} onClick={() => useDock.setState({ arranging: !arranging })}>
                Arrange
            </Button>
            <Button tone="small" data-action="only-this" aria-pressed={onlyThis} onClick={turn}>
                {onlyThis ? `only ${code}` : 'all contracts'}
            </Button>
            <Button tone="small" data-action="sounds" aria-pressed={sounds} onClick={toggleSounds}>
                Sounds {sounds ? 'on' : 'off'}
            </Button>
            <Button tone="small" data-action="theme" title={WORDS.theme(theme)} onClick={nextTheme}>
                Theme
            </Button>
        </>
    );
    return (
        <div className="flex h-full items-center gap-12 pr-10 text-small whitespace-nowrap" data-part="lists-head">
            <Clock brief={narrow} />
            <span className="flex gap-6" data-part="lists-tools">
                <TicketButton />
                {narrow ? (
                    <Popover
                        align="end"
                        className="items-stretch"
                        trigger={
                            <Button tone="small" data-action="desk-tools">
                                Desk…
                            </Button>
                        }
                    >
                        {seldom}
                    </Popover>
                ) : (
                    seldom
                )}
                <Button
                    tone="small"
                    data-action="grow"
                    aria-label={lists === 'tall' ? WORDS.usualLists : WORDS.tallLists}
                    title={lists === 'tall' ? WORDS.usualLists : WORDS.tallLists}
                    onClick={growLists}
                >
                    {lists === 'tall' ? '↓' : '↑'}
                </Button>
                <Button tone="small" data-action="fold" aria-expanded={lists !== 'folded'} onClick={foldLists}>
                    {lists === 'folded' ? 'Show lists' : 'Hide lists'}
                </Button>
            </span>
        </div>
    );
}
