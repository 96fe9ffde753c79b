import { type ReactNode, useEffect } from 'react';
import { create } from 'zustand';
import { ACTIONS, comboOf, keyFor, showKey } from '@/model/keymap';
import { isFor } from '@/model/screen';
import { useSettings } from '@/model/settings';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';

/** What the pointer does; the rest of the sheet is the map of keys. */
const POINTER: [what: string, does: string][] = [
    ['Click', 'a draft at that rung; sent at once with one-click on, or where it only closes'],
    ['Shift + click', 'the other kind: a limit through the market, or MIT (market if touched)'],
    ['Alt Shift + click', 'a stop-limit where a stop would stand'],
    ['D + click', 'a draft, even with one-click on'],
    ['Arrow keys', 'point at a rung without the pointer'],
    ['Drag', 'an order to another rung; from the average price, a stop or a target, with Shift both as a pair'],
    ['Wheel', 'scrolls the rungs; on a chip that is chosen or held down, its lots'],
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
            if (
                comboOf(event) !== keyFor('sheet') ||
                !isFor('desk', event) ||
                (event.target instanceof HTMLElement && event.target.matches('input, textarea'))
            )
                return;
            turnHelp();
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
                                <dd>action key: {tile.name}</dd>
                            </Line>
                        ),
                )}
            </dl>
            <Button onClick={turnHelp}>Close</Button>
        </Sheet>
    );
}
