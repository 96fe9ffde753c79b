import { Popover } from 'radix-ui';
import { useKeyOf } from '@/model/keymap';
import { useSettingsSheet } from '@/model/settingsSheetState';
import { Clock } from '@/panels/lists/Clock';
import { useListScope } from '@/panels/lists/kept';
import { TicketButton } from '@/panels/ticket/Ticket';
import { toggleSounds, useSounds } from '@/ui/sounds';
import { nextTheme, useTheme } from '@/ui/theme';
import { foldLists, useDock } from './dock';

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
    const { arranging, folded } = useDock();
    const seldom = (
        <>
            <button
                type="button"
                className="order-button small"
                data-action="settings"
                onClick={() => useSettingsSheet.setState({ open: true })}
            >
                Settings <kbd>{settingsKey}</kbd>
            </button>
            <button
                type="button"
                className="order-button small"
                data-action="arrange"
                aria-pressed={arranging}
                onClick={() => useDock.setState({ arranging: !arranging })}
            >
                Arrange
            </button>
            <button type="button" className="order-button small" data-action="only-this" aria-pressed={onlyThis} onClick={turn}>
                {onlyThis ? `only ${code}` : 'all contracts'}
            </button>
            <button type="button" className="order-button small" data-action="sounds" aria-pressed={sounds} onClick={toggleSounds}>
                Sounds {sounds ? 'on' : 'off'}
            </button>
            <button
                type="button"
                className="order-button small"
                data-action="theme"
                title={`Theme: ${theme}. A press takes the next one.`}
                onClick={nextTheme}
            >
                Theme
            </button>
        </>
    );
    return (
        <div className="lists-head">
            <Clock brief={narrow} />
            <span className="lists-tools">
                <TicketButton />
                {narrow ? (
                    <Popover.Root>
                        <Popover.Trigger className="order-button small" data-action="desk-tools">
                            Desk…
                        </Popover.Trigger>
                        <Popover.Portal>
                            <Popover.Content className="popover tools" align="end" sideOffset={4}>
                                {seldom}
                            </Popover.Content>
                        </Popover.Portal>
                    </Popover.Root>
                ) : (
                    seldom
                )}
                <button type="button" className="order-button small" data-action="fold" aria-expanded={!folded} onClick={foldLists}>
                    {folded ? 'Show lists' : 'Hide lists'}
                </button>
            </span>
        </div>
    );
}
