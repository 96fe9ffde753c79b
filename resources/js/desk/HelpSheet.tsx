import { useEffect, useRef } from 'react';

const KEYS: [key: string, does: string][] = [
    ['Click', 'a draft at that rung; sent at once with one-click on, or where it only closes'],
    ['Shift + click', 'the other kind: a limit through the market where a stop would stand'],
    ['D held', 'a draft, even with one-click on'],
    ['Enter', 'sends the chosen draft'],
    ['Esc', 'drops the chosen draft; lets go of what is dragged'],
    ['O', 'one-click on or off'],
    ['1 – 5', 'lots of the lots row'],
    ['N', 'next exit plan'],
    [', and .', 'contract before, contract after'],
    ['Space', 'centres the ladder'],
    ['B', 'stops to break-even'],
    ['X held', 'flattens this contract'],
    ['H held', 'takes half off'],
    ['R held', 'reverses under the chosen plan'],
    ['Backspace held', 'cancels entries and hand-made orders, keeps the stops'],
    ['?', 'this sheet'],
];

/** All keys on one sheet, opened with `?`. */
export function HelpSheet() {
    const sheet = useRef<HTMLDialogElement>(null);
    useEffect(() => {
        const press = (event: KeyboardEvent) => {
            if (event.key !== '?' || (event.target instanceof HTMLElement && event.target.matches('input, textarea'))) return;
            if (sheet.current?.open) sheet.current.close();
            else sheet.current?.showModal();
        };
        window.addEventListener('keydown', press);
        return () => window.removeEventListener('keydown', press);
    }, []);
    return (
        <dialog ref={sheet} className="help" aria-labelledby="help-title">
            <h2 id="help-title">Keys</h2>
            <dl>
                {KEYS.map(([key, does]) => (
                    <div key={key}>
                        <dt>{key}</dt>
                        <dd>{does}</dd>
                    </div>
                ))}
            </dl>
            <form method="dialog">
                <button type="submit" className="order-button">
                    Close
                </button>
            </form>
        </dialog>
    );
}
