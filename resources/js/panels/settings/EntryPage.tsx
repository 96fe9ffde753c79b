import { useState } from 'react';
import { QUICK_NAMES } from '@/commands/quick';
import { useChoices } from '@/model/choices';
import { type ContractEntry, lotsRow, saveSettings, useSettings } from '@/model/settings';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Fault } from '@/ui/Fault';
import { Group } from '@/ui/Group';
import { FIELD } from '@/ui/looks';
import { Select } from '@/ui/Select';
import { Switch } from '@/ui/Switch';
import { TextField } from '@/ui/TextField';
import { FIELDS, LABEL, Page } from './Page';
import { WORDS } from './words';

const numbers = (text: string): number[] =>
    text
        .split(/[\s,]+/)
        .filter(Boolean)
        .map(Number);

/** Sizes, the quick row and what is asked about first; then what is different for the contract on the ladder. */
export function EntryPage() {
    const settings = useSettings();
    const { entry } = settings;
    const code = useChoices((choices) => choices.code);
    const plans = useChoices((choices) => choices.plans);
    const own = entry.contracts[code] ?? {};
    const [row, setRow] = useState(entry.lots_row.join(' '));
    const [ownRow, setOwnRow] = useState(lotsRow(settings, code).join(' '));
    const [fault, setFault] = useState('');
    const put = async (make: (now: typeof entry) => typeof entry) => setFault(await saveSettings('entry', make));
    const save = (part: Partial<typeof entry>) => put((now) => ({ ...now, ...part }));
    const saveOwn = (part: ContractEntry) =>
        put((now) => ({ ...now, contracts: { ...now.contracts, [code]: { ...now.contracts[code], ...part } } }));
    const move = (name: string, to: number) => {
        void put((now) => {
            const rest = now.quick_row.filter((other) => other !== name);
            return { ...now, quick_row: [...rest.slice(0, to), name, ...rest.slice(to)] };
        });
    };
    return (
        <Page>
            <Fault words={fault} />
            <div className={FIELDS}>
                <label className={LABEL}>
                    Lots row, five sizes
                    <TextField
                        value={row}
                        onChange={(event) => setRow(event.target.value)}
                        onBlur={() => void save({ lots_row: numbers(row) })}
                        data-name="lots-row"
                    />
                </label>
                <label className={LABEL}>
                    {WORDS.askBeforeLots}
                    <input
                        className={FIELD}
                        type="number"
                        min={1}
                        placeholder="never"
                        defaultValue={entry.confirm_over ?? ''}
                        onBlur={(event) => void save({ confirm_over: event.target.value === '' ? null : Number(event.target.value) })}
                        data-name="confirm-over"
                    />
                </label>
                <label className={LABEL}>
                    {WORDS.secondPress}
                    <input
                        className={FIELD}
                        type="number"
                        min={0}
                        max={2000}
                        defaultValue={entry.double_press_ms}
                        onBlur={(event) => void save({ double_press_ms: Number(event.target.value) })}
                        data-name="double-press"
                    />
                </label>
                <label className={LABEL}>
                    {WORDS.oneClickIdle}
                    <input
                        className={FIELD}
                        type="number"
                        min={1}
                        max={240}
                        defaultValue={entry.idle_minutes}
                        onBlur={(event) => void save({ idle_minutes: Number(event.target.value) })}
                        data-name="idle"
                    />
                </label>
            </div>
            <Group legend="When it is sent" className="flex flex-col gap-4">
                <Switch on={entry.buttons_at_once} set={(on) => void save({ buttons_at_once: on })} name="buttons-at-once">
                    {WORDS.sendAtOnce}
                </Switch>
                <Switch on={entry.act_on_press} set={(on) => void save({ act_on_press: on })} name="act-on-press">
                    {WORDS.actOnPress}
                </Switch>
                <Switch on={entry.cut_to_band} set={(on) => void save({ cut_to_band: on })} name="cut-to-band">
                    {WORDS.cutToBand}
                </Switch>
            </Group>
            <Group legend="Quick row">
                {QUICK_NAMES.map(([name, words]) => {
                    const at = entry.quick_row.indexOf(name);
                    return (
                        <span key={name} className="mr-16 inline-flex gap-4">
                            <Checkbox
                                checked={at >= 0}
                                set={() =>
                                    void save({
                                        quick_row: at >= 0 ? entry.quick_row.filter((other) => other !== name) : [...entry.quick_row, name],
                                    })
                                }
                                name={`quick-${name}`}
                            >
                                {words}
                            </Checkbox>
                            {at > 0 && (
                                <Button tone="choice" aria-label={`${words}: earlier`} onClick={() => move(name, at - 1)}>
                                    ↑
                                </Button>
                            )}
                            {at >= 0 && at < entry.quick_row.length - 1 && (
                                <Button tone="choice" aria-label={`${words}: later`} onClick={() => move(name, at + 1)}>
                                    ↓
                                </Button>
                            )}
                        </span>
                    );
                })}
            </Group>
            <Group legend={WORDS.forContract(code)}>
                <div className={FIELDS}>
                    <label className={LABEL}>
                        Lots row
                        <TextField
                            value={ownRow}
                            onChange={(event) => setOwnRow(event.target.value)}
                            onBlur={() => void saveOwn({ lots_row: numbers(ownRow) })}
                            data-name="own-row"
                        />
                    </label>
                    <label className={LABEL}>
                        Lots at first
                        <input
                            className={FIELD}
                            type="number"
                            min={1}
                            defaultValue={own.lots ?? ''}
                            placeholder="as they were"
                            onBlur={(event) => event.target.value !== '' && void saveOwn({ lots: Number(event.target.value) })}
                        />
                    </label>
                    <label className={LABEL}>
                        Exit plan at first
                        <Select
                            value={own.plan ?? ''}
                            onChange={(event) => event.target.value !== '' && void saveOwn({ plan: Number(event.target.value) })}
                        >
                            <option value="">as it was</option>
                            {plans.map((plan) => (
                                <option key={plan.id} value={plan.id}>
                                    {plan.document.name}
                                </option>
                            ))}
                            <option value={0}>No plan</option>
                        </Select>
                    </label>
                    <label className={LABEL}>
                        {WORDS.ticketKind}
                        <Select
                            value={own.kind ?? 'limit'}
                            onChange={(event) => void saveOwn({ kind: event.target.value as ContractEntry['kind'] })}
                        >
                            <option value="market">market</option>
                            <option value="limit">limit</option>
                            <option value="stop">stop</option>
                            <option value="stop-limit">stop-limit</option>
                            <option value="mit">MIT</option>
                        </Select>
                    </label>
                    <label className={LABEL}>
                        Orders work
                        <Select value={own.tif ?? 'day'} onChange={(event) => void saveOwn({ tif: event.target.value as 'day' | 'gtc' })}>
                            <option value="day">for the day</option>
                            <option value="gtc">until cancelled (GTC)</option>
                        </Select>
                    </label>
                </div>
            </Group>
        </Page>
    );
}
