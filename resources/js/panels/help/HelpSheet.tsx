import { type ReactNode, useEffect } from 'react';
import { create } from 'zustand';
import { ACTIONS, comboOf, keyFor, showKey } from '@/model/keymap';
import { isFor } from '@/model/screen';
import { useSettings } from '@/model/settings';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { matches } from '@/ui/written';
import { WORDS } from './words';

/** What the pointer does; the rest of the sheet is the map of keys. */
const POINTER: [what: string, does: string][] = [
    ['Click', WORDS.click],
    ['Shift + click', WORDS.shiftClick],
    ['Alt Shift + click', WORDS.altShiftClick],
    ['D + click', WORDS.draftClick],
    ['Arrow keys', 'point at a rung without the pointer'],
    ['Drag', WORDS.drag],
    ['Wheel', WORDS.wheel],
];

const useHelp = create<{ open: boolean }>(() => ({ open: false }));

/** Opens or closes the sheet of keys. */
export const turnHelp = (): void => useHelp.setState(({ open }) => ({ open: !open }));

/** One key, and what it does. */
const Line = ({ children }: { children: ReactNode }) => (
    <div className="grid break-inside-avoid grid-cols-[6.75rem_1fr] border-b border-shade py-2">{children}</div>
);

/** All keys on one sheet, made from the map of keys. */
export function HelpSheet() {
    const map = useSettings((settings) => settings.keys.keys);
    const tiles = useSettings((settings) => settings['action-keys'].tiles);
    const { open } = useHelp();
    useEffect(() => {
        const press = (event: KeyboardEvent) => {
            if (comboOf(event) === keyFor('sheet') && isFor('desk', event) && !matches(event.target, 'input, textarea')) turnHelp();
        };
        window.addEventListener('keydown', press);
        return () => window.removeEventListener('keydown', press);
    }, []);
    return (
        <Sheet open={open} close={turnHelp} title="Keys" name="help">
            <dl className="mb-12 columns-2 gap-x-28 text-usual">
                {POINTER.map(([what, does]) => (
                    <Line key={what}>
                        <dt className="font-bold">{what}</dt>
                        <dd>{does}</dd>
                    </Line>
                ))}
                {ACTIONS.map((action) => (
                    <Line key={action.id}>
                        <dt className="font-bold">
                            {showKey(map[action.id] ?? '')}
                            {action.held && ' held'}
                        </dt>
                        <dd>{action.words}</dd>
                    </Line>
                ))}
                {tiles.map(
                    (tile) =>
                        tile.key && (
                            <Line key={tile.name}>
                                <dt className="font-bold">{showKey(tile.key)}</dt>
                                <dd>{WORDS.actionKey(tile.name)}</dd>
                            </Line>
                        ),
                )}
            </dl>
            <Button onClick={turnHelp}>Close</Button>
        </Sheet>
    );
}
