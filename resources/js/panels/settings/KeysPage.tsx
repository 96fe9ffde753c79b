import { useState } from 'react';
import { ACTIONS, comboOf, showKey } from '@/model/keymap';
import { type Settings, saveSettings, useSettings } from '@/model/settings';
import { Button } from '@/ui/Button';
import { Fault } from '@/ui/Fault';
import { FileRow } from '@/ui/FileRow';
import { ask } from '@/ui/question';
import { Page } from './Page';
import { WORDS } from './words';

/** Every action with its key; a press on the key waits for the new one. */
export function KeysPage() {
    const document = useSettings((settings) => settings.keys);
    const [waiting, setWaiting] = useState<string | null>(null);
    const [fault, setFault] = useState('');
    const change = async (id: string, key: string) => {
        setWaiting(null);
        const save = async (keys: Record<string, string>) =>
            setFault(await saveSettings('keys', (now) => ({ ...now, keys: { ...now.keys, ...keys } })));
        const other = ACTIONS.find((action) => action.id !== id && document.keys[action.id] === key);
        if (!other) return save({ [id]: key });
        ask({
            title: 'Swap the keys?',
            words: WORDS.swapKeys(showKey(key), other.words, showKey(document.keys[id] ?? '')),
            safe: 'Leave them',
            answers: [{ label: 'Swap', name: 'swap-keys', act: () => void save({ [id]: key, [other.id]: document.keys[id] ?? '' }) }],
        });
    };
    return (
        <Page>
            <p>{WORDS.howToChangeKeys}</p>
            <Fault words={fault} />
            <dl className="columns-2 gap-x-28">
                {ACTIONS.map((action) => (
                    <div key={action.id} className="grid break-inside-avoid grid-cols-[6.75rem_1fr] border-b border-shade py-2">
                        <dt className="font-bold">
                            <Button
                                tone="small"
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
                            </Button>
                            {action.held && ' held'}
                        </dt>
                        <dd>{action.words}</dd>
                    </div>
                ))}
            </dl>
            <FileRow
                name="lotrik-keys"
                what="keys"
                document={document}
                take={(taken) => saveSettings('keys', () => taken as Settings['keys'])}
            />
        </Page>
    );
}
