import { useState } from 'react';
import { QUICK_NAMES } from '@/commands/quick';
import { useChoices } from '@/model/choices';
import { type ContractEntry, lotsRow, useSettings } from '@/model/settings';
import { trySaving } from '@/model/settingsSheetState';

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
    const save = async (part: Partial<typeof entry>) => setFault(await trySaving('entry', { ...entry, ...part }));
    const saveOwn = (part: ContractEntry) => save({ contracts: { ...entry.contracts, [code]: { ...own, ...part } } });
    const move = (name: string, to: number) => {
        const rest = entry.quick_row.filter((other) => other !== name);
        void save({ quick_row: [...rest.slice(0, to), name, ...rest.slice(to)] });
    };
    return (
        <div className="settings-page">
            {fault !== '' && (
                <p className="fault" role="alert">
                    {fault}
                </p>
            )}
            <div className="fields">
                <label>
                    Lots row, five sizes
                    <input
                        type="text"
                        value={row}
                        onChange={(event) => setRow(event.target.value)}
                        onBlur={() => void save({ lots_row: numbers(row) })}
                        data-name="lots-row"
                    />
                </label>
                <label>
                    Ask before more lots than
                    <input
                        type="number"
                        min={1}
                        placeholder="never"
                        defaultValue={entry.confirm_over ?? ''}
                        onBlur={(event) => void save({ confirm_over: event.target.value === '' ? null : Number(event.target.value) })}
                        data-name="confirm-over"
                    />
                </label>
                <label>
                    Drop a second press within, ms (0: off)
                    <input
                        type="number"
                        min={0}
                        max={2000}
                        defaultValue={entry.double_press_ms}
                        onBlur={(event) => void save({ double_press_ms: Number(event.target.value) })}
                        data-name="double-press"
                    />
                </label>
                <label>
                    One-click off after, minutes without use
                    <input
                        type="number"
                        min={1}
                        max={240}
                        defaultValue={entry.idle_minutes}
                        onBlur={(event) => void save({ idle_minutes: Number(event.target.value) })}
                        data-name="idle"
                    />
                </label>
            </div>
            <fieldset className="when-sent">
                <legend>When it is sent</legend>
                <label>
                    <input
                        type="checkbox"
                        checked={entry.buttons_at_once}
                        onChange={() => void save({ buttons_at_once: !entry.buttons_at_once })}
                        data-name="buttons-at-once"
                    />{' '}
                    Quick row, action keys and armed rows send at once, one-click or not
                </label>
                <label>
                    <input
                        type="checkbox"
                        checked={entry.act_on_press}
                        onChange={() => void save({ act_on_press: !entry.act_on_press })}
                        data-name="act-on-press"
                    />{' '}
                    A press on the ladder acts as it goes down, not where it is let go
                </label>
            </fieldset>
            <fieldset>
                <legend>Quick row</legend>
                {QUICK_NAMES.map(([name, words]) => {
                    const at = entry.quick_row.indexOf(name);
                    return (
                        <span key={name} className="quick-choice">
                            <label>
                                <input
                                    type="checkbox"
                                    checked={at >= 0}
                                    onChange={() =>
                                        void save({
                                            quick_row:
                                                at >= 0 ? entry.quick_row.filter((other) => other !== name) : [...entry.quick_row, name],
                                        })
                                    }
                                />{' '}
                                {words}
                            </label>
                            {at > 0 && (
                                <button type="button" aria-label={`${words}: earlier`} onClick={() => move(name, at - 1)}>
                                    ↑
                                </button>
                            )}
                            {at >= 0 && at < entry.quick_row.length - 1 && (
                                <button type="button" aria-label={`${words}: later`} onClick={() => move(name, at + 1)}>
                                    ↓
                                </button>
                            )}
                        </span>
                    );
                })}
            </fieldset>
            <fieldset>
                <legend>For {code} alone</legend>
                <div className="fields">
                    <label>
                        Lots row
                        <input
                            type="text"
                            value={ownRow}
                            onChange={(event) => setOwnRow(event.target.value)}
                            onBlur={() => void saveOwn({ lots_row: numbers(ownRow) })}
                            data-name="own-row"
                        />
                    </label>
                    <label>
                        Lots at first
                        <input
                            type="number"
                            min={1}
                            defaultValue={own.lots ?? ''}
                            placeholder="as they were"
                            onBlur={(event) => event.target.value !== '' && void saveOwn({ lots: Number(event.target.value) })}
                        />
                    </label>
                    <label>
                        Exit plan at first
                        <select
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
                        </select>
                    </label>
                    <label>
                        Kind on the ticket at first
                        <select
                            value={own.kind ?? 'limit'}
                            onChange={(event) => void saveOwn({ kind: event.target.value as ContractEntry['kind'] })}
                        >
                            <option value="market">market</option>
                            <option value="limit">limit</option>
                            <option value="stop">stop</option>
                            <option value="stop-limit">stop-limit</option>
                            <option value="mit">MIT</option>
                        </select>
                    </label>
                    <label>
                        Orders work
                        <select value={own.tif ?? 'day'} onChange={(event) => void saveOwn({ tif: event.target.value as 'day' | 'gtc' })}>
                            <option value="day">for the day</option>
                            <option value="gtc">until cancelled (GTC)</option>
                        </select>
                    </label>
                </div>
            </fieldset>
        </div>
    );
}
