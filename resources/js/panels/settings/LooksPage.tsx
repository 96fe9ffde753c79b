import { useState } from 'react';
import { RUNG_HEIGHT, setRungHeight } from '@/model/rungHeight';
import { LETTERS, setLetters, useLetters } from '@/ui/letters';
import { type Sound, silence, toggleSounds, useSounds } from '@/ui/sounds';
import { nextTheme, useTheme } from '@/ui/theme';

const HEIGHTS = [16, 18, 20, 22, 26, 30, 36];
const [LEAST_HEIGHT, MAX_HEIGHT] = [16, 36];

/** Pixels that the first ladder has for its rungs, as it stands now behind the settings. */
const roomForRungs = (): number => document.querySelector('.rungs')?.clientHeight ?? 0;

const SOUNDS: [Sound, string][] = [
    ['fill', 'a fill'],
    ['stop', 'a stop that moved'],
    ['refusal', 'a refusal'],
    ['alarm', 'an account that is barred'],
    ['level', 'what happens at a marked level'],
];

/** How the desk looks and sounds in this browser. */
export function LooksPage() {
    const theme = useTheme((state) => state.theme);
    const { on, silent } = useSounds();
    const letters = useLetters((state) => state.size);
    return (
        <div className="looks">
            <p>
                <button type="button" className="order-button small" onClick={nextTheme}>
                    Theme: {theme}
                </button>
            </p>
            <label>
                Height of a rung, with its figures{' '}
                <select data-name="rung-height" value={RUNG_HEIGHT} onChange={(event) => setRungHeight(+event.target.value)}>
                    {[...new Set([...HEIGHTS, RUNG_HEIGHT])]
                        .sort((a, b) => a - b)
                        .map((height) => (
                            <option key={height} value={height}>
                                {height} pixels
                            </option>
                        ))}
                </select>{' '}
                (the desk is drawn anew)
            </label>
            <RungsShown />
            <label>
                Text size elsewhere{' '}
                <select data-name="letters" value={letters} onChange={(event) => setLetters(event.target.value)}>
                    {LETTERS.map(([size, words]) => (
                        <option key={size} value={size}>
                            {words}
                        </option>
                    ))}
                </select>
            </label>
            <fieldset>
                <legend>Sounds</legend>
                <label>
                    <input type="checkbox" checked={on} onChange={toggleSounds} /> any sound at all
                </label>
                {SOUNDS.map(([sound, words]) => (
                    <label key={sound}>
                        <input
                            type="checkbox"
                            data-name={`sound-${sound}`}
                            disabled={!on}
                            checked={!silent.includes(sound)}
                            onChange={(event) => silence(sound, !event.target.checked)}
                        />{' '}
                        {words}
                    </label>
                ))}
            </fieldset>
        </div>
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
                    type="number"
                    data-name="rungs-shown"
                    min={least}
                    max={most}
                    value={wanted}
                    required
                    onChange={(event) => setWanted(event.target.valueAsNumber)}
                />{' '}
                from {least} to {most} in a ladder as high as this one
            </label>{' '}
            <button type="submit" className="order-button small" disabled={height === null || height === RUNG_HEIGHT}>
                Show {height === null ? 'them' : `${Math.floor(room / height)}, ${height} pixels each`}
            </button>
        </form>
    );
}
