import { useState } from 'react';
import { ACTIONS, comboOf, showKey } from '@/model/keymap';
import { type Settings, useSettings } from '@/model/settings';
import { trySaving } from '@/model/settingsSheetState';
import { FileRow } from '@/ui/FileRow';

/** Every action with its key; a press on the key waits for the new one. */
export function KeysPage() {
    const document = useSettings((settings) => settings.keys);
    const [waiting, setWaiting] = useState<string | null>(null);
    const [fault, setFault] = useState('');
    const change = async (id: string, key: string) => {
        setWaiting(null);
        setFault(await trySaving('keys', { ...document, keys: { ...document.keys, [id]: key } }));
    };
    return (
        <div className="settings-page">
            <p>Press on a key to change it. A key that the browser or something else here needs is refused, and nothing changes.</p>
            {fault !== '' && (
                <p className="fault" role="alert">
                    {fault}
                </p>
            )}
            <dl className="keys">
                {ACTIONS.map((action) => (
                    <div key={action.id}>
                        <dt>
                            <button
                                type="button"
                                className="order-button small"
                                data-key={action.id}
                                onClick={() => setWaiting(action.id)}
                                onKeyDown={(event) => {
                                    if (waiting !== action.id || ['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return;
                                    event.preventDefault();
                                    event.stopPropagation();
                                    void change(action.id, comboOf(event.nativeEvent));
                                }}
                                onBlur={() => setWaiting(null)}
                            >
                                {waiting === action.id ? 'press a key' : showKey(document.keys[action.id] ?? '')}
                            </button>
                            {action.held && ' held'}
                        </dt>
                        <dd>{action.words}</dd>
                    </div>
                ))}
            </dl>
            <FileRow name="lotrik-keys" document={document} take={(taken) => trySaving('keys', taken as Settings['keys'])} />
        </div>
    );
}
