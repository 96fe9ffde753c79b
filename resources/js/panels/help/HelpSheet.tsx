import { useEffect } from 'react';
import { ACTIONS, comboOf, keyFor, showKey } from '@/model/keymap';
import { isFor } from '@/model/screen';
import { useSettings } from '@/model/settings';

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

/** Opens or closes the sheet of keys; there is one of it. */
export function turnHelp(): void {
    const sheet = document.querySelector<HTMLDialogElement>('dialog[data-field=help]');
    if (sheet?.open) sheet.close();
    else sheet?.showModal();
}

/** All keys on one sheet, made from the map of keys. */
export function HelpSheet() {
    const map = useSettings((settings) => settings.keys.keys);
    const tiles = useSettings((settings) => settings['action-keys'].tiles);
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
        <dialog className="help" aria-labelledby="help-title" data-field="help">
            <h2 id="help-title">Keys</h2>
            <dl>
                {POINTER.map(([what, does]) => (
                    <div key={what}>
                        <dt>{what}</dt>
                        <dd>{does}</dd>
                    </div>
                ))}
                {ACTIONS.map((action) => (
                    <div key={action.id}>
                        <dt>
                            {showKey(map[action.id] ?? '')}
                            {action.held && ' held'}
                        </dt>
                        <dd>{action.words}</dd>
                    </div>
                ))}
                {tiles.map(
                    (tile) =>
                        tile.key && (
                            <div key={tile.name}>
                                <dt>{showKey(tile.key)}</dt>
                                <dd>action key: {tile.name}</dd>
                            </div>
                        ),
                )}
            </dl>
            <form method="dialog">
                <button type="submit" className="order-button">
                    Close
                </button>
            </form>
        </dialog>
    );
}
