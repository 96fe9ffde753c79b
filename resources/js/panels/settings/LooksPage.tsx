import { useState } from 'react';
import { usePnlShown } from '@/model/pnlShown';
import { LEAST_HEIGHT, MAX_HEIGHT, RUNG_HEIGHT, setRungHeight } from '@/model/rungHeight';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { Group } from '@/ui/Group';
import { LETTERS, setLetters, useLetters } from '@/ui/letters';
import { FIELD } from '@/ui/looks';
import { Select } from '@/ui/Select';
import { Switch } from '@/ui/Switch';
import { type Sound, silence, toggleSounds, useSounds } from '@/ui/sounds';
import { nextTheme, useTheme } from '@/ui/theme';
import { Page } from './Page';
import { WORDS } from './words';

const HEIGHTS = [16, 18, 20, 22, 26, 30, 36];

/** Pixels that the first ladder has for its rungs, as it stands now behind the settings. */
const roomForRungs = (): number => document.querySelector('[data-part=rungs]')?.clientHeight ?? 0;

const SOUNDS: [Sound, string][] = [
    ['fill', 'a fill'],
    ['stop', 'a stop that moved'],
    ['refusal', 'a refusal'],
    ['alarm', WORDS.barred],
    ['level', WORDS.atLevel],
];

/** How the desk looks and sounds in this browser. */
export function LooksPage() {
    const pnl = usePnlShown();
    const theme = useTheme((state) => state.theme);
    const { on, silent } = useSounds();
    const letters = useLetters((state) => state.size);
    return (
        <Page name="looks">
            <p>
                <Button tone="small" onClick={nextTheme}>
                    Theme: {theme}
                </Button>
            </p>
            <label>
                {WORDS.rungHeight}{' '}
                <Select data-name="rung-height" value={RUNG_HEIGHT} onChange={(event) => setRungHeight(+event.target.value)}>
                    {[...new Set([...HEIGHTS, RUNG_HEIGHT])]
                        .sort((a, b) => a - b)
                        .map((height) => (
                            <option key={height} value={height}>
                                {height} pixels
                            </option>
                        ))}
                </Select>{' '}
                {WORDS.drawnAnew}
            </label>
            <RungsShown />
            <label>
                Text size elsewhere{' '}
                <Select data-name="letters" value={letters} onChange={(event) => setLetters(event.target.value)}>
                    {LETTERS.map(([size, words]) => (
                        <option key={size} value={size}>
                            {words}
                        </option>
                    ))}
                </Select>
            </label>
            <Group legend="Profit and loss" className="flex flex-wrap items-center gap-14">
                <label>
                    {WORDS.lastColumn}{' '}
                    <Select
                        data-name="pnl-unit"
                        value={pnl.unit}
                        onChange={(event) => usePnlShown.setState({ unit: event.target.value as typeof pnl.unit })}
                    >
                        <option value="money">money</option>
                        <option value="ticks">ticks a lot</option>
                        <option value="percent">percent of margin</option>
                    </Select>
                </label>
                <span>{WORDS.besideOpen}</span>
                <Checkbox checked={pnl.percent} set={(percent) => usePnlShown.setState({ percent })} name="pnl-percent">
                    percent of margin
                </Checkbox>
                <Checkbox checked={pnl.r} set={(r) => usePnlShown.setState({ r })} name="pnl-r">
                    {WORDS.inR}
                </Checkbox>
            </Group>
            <Group legend="Sounds" className="flex flex-col items-start gap-8">
                <Switch on={on} set={toggleSounds} name="sounds">
                    any sound at all
                </Switch>
                {SOUNDS.map(([sound, words]) => (
                    <Checkbox
                        key={sound}
                        name={`sound-${sound}`}
                        disabled={!on}
                        checked={!silent.includes(sound)}
                        set={(checked) => silence(sound, !checked)}
                    >
                        {words}
                    </Checkbox>
                ))}
            </Group>
        </Page>
    );
}

/** How many rungs the ladder shows: their height follows, as far as figures can be read and rungs be hit. */
function RungsShown() {
    const room = roomForRungs();
    const shown = Math.floor(room / RUNG_HEIGHT);
    const [least, most] = [Math.ceil(room / (MAX_HEIGHT + 1)), Math.floor(room / LEAST_HEIGHT)];
    const [wanted, setWanted] = useState(shown);
    if (room === 0) return null;
    const height = wanted >= least && wanted <= most ? Math.floor(room / wanted) : null;
    return (
        <form
            onSubmit={(event) => {
                event.preventDefault();
                if (height !== null) setRungHeight(height);
            }}
        >
            <label>
                Rungs shown{' '}
                <input
                    className={FIELD}
                    type="number"
                    data-name="rungs-shown"
                    min={least}
                    max={most}
                    value={wanted}
                    required
                    onChange={(event) => setWanted(event.target.valueAsNumber)}
                />{' '}
                from {least} to {most} {WORDS.asHighAsThis}
            </label>{' '}
            <Button tone="small" type="submit" disabled={height === null || height === RUNG_HEIGHT}>
                Show {height === null ? 'them' : WORDS.pixelsEach(Math.floor(room / height), height)}
            </Button>
        </form>
    );
}
