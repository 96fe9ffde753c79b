import { useState } from 'react';
import { type Layout, type Settings, saveSettings, useSettings } from '@/model/settings';
import { say } from '@/stream/store';
import { Button } from '@/ui/Button';
import { Fault } from '@/ui/Fault';
import { FileRow } from '@/ui/FileRow';
import { Select } from '@/ui/Select';
import { TextField } from '@/ui/TextField';
import { arrangementNow, openArrangement, PANELS, showPanel, standardArrangement, useDock } from './dock';
import { WORDS } from './words';

/** Named layouts, kept on the server: saved, opened, deleted, exported and imported; and the panels that are hidden. */
export function ArrangeBar() {
    const { api } = useDock();
    // Drawn anew when a panel comes or goes.
    useDock((state) => state.changes);
    const saved = useSettings((settings) => settings.layouts);
    const [name, setName] = useState(saved.opens ?? '');
    const [fault, setFault] = useState('');
    const keep = async (make: (now: Settings['layouts']) => Settings['layouts']) => setFault(await saveSettings('layouts', make));
    const open = (wanted: string) => {
        const layout = saved.layouts.find((one) => one.name === wanted);
        setName(wanted);
        if (!layout) return;
        if (!openArrangement(layout)) say(WORDS.layoutUnreadable(wanted));
        void keep((now) => ({ ...now, opens: wanted }));
    };
    const save = () => {
        const now = arrangementNow();
        if (!now) return;
        if (name.trim() === '') return setFault(WORDS.layoutNeedsName);
        const layout: Layout = { name: name.trim(), ...now };
        void keep(({ layouts, ...now }) => ({
            ...now,
            opens: layout.name,
            layouts: [...layouts.filter((one) => one.name !== layout.name), layout],
        }));
    };
    const drop = () => void keep(({ layouts, ...now }) => ({ ...now, opens: null, layouts: layouts.filter((one) => one.name !== name) }));
    const take = async (document: unknown): Promise<string> => saveSettings('layouts', () => document as Settings['layouts']);
    const hidden = Object.entries(PANELS).filter(([id]) => api !== null && !api.getPanel(id));
    return (
        <section
            className="row-start-1 flex flex-wrap items-center gap-8 border-b border-rule bg-shade px-14 py-6 text-usual"
            data-part="arrange-bar"
            aria-label="Arrange the desk"
        >
            <b>Arranging</b>
            <span>drag tabs, edges resize</span>
            {saved.layouts.length > 0 && (
                <Select
                    aria-label="Open a layout"
                    value={saved.layouts.some((one) => one.name === name) ? name : ''}
                    onChange={(event) => open(event.target.value)}
                >
                    <option value="" disabled>
                        open a layout
                    </option>
                    {saved.layouts.map((layout) => (
                        <option key={layout.name}>{layout.name}</option>
                    ))}
                </Select>
            )}
            <TextField
                aria-label="Name of the layout"
                placeholder="name of the layout"
                maxLength={60}
                value={name}
                onChange={(event) => setName(event.target.value)}
            />
            <Button tone="small" data-action="save-layout" onClick={save}>
                Save
            </Button>
            {saved.layouts.some((one) => one.name === name) && (
                <Button tone="small" onClick={drop}>
                    Delete
                </Button>
            )}
            <Button tone="small" data-action="standard-layout" onClick={() => api && standardArrangement(api)}>
                Standard
            </Button>
            <FileRow name="layouts" what="layouts" document={saved} take={take} />
            {hidden.map(([id, title]) => (
                <Button tone="small" key={id} data-action={`show-${id}`} onClick={() => api && showPanel(api, id)}>
                    + {title}
                </Button>
            ))}
            <Fault words={fault} />
            <Button tone="small" data-action="arranged" onClick={() => useDock.setState({ arranging: false })}>
                Done
            </Button>
        </section>
    );
}
