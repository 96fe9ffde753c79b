import { RUNG_HEIGHT, setRungHeight } from '@/desk/ladder-view';
import { nextTheme, useTheme } from '@/shell/theme';
import { LETTERS, setLetters, useLetters } from '@/ui/letters';
import { type Sound, silence, toggleSounds, useSounds } from '@/ui/sounds';

const HEIGHTS = [16, 18, 20, 22, 26];

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
                    Look: {theme}
                </button>
            </p>
            <label>
                Height of a rung, with its figures{' '}
                <select data-name="rung-height" value={RUNG_HEIGHT} onChange={(event) => setRungHeight(+event.target.value)}>
                    {HEIGHTS.map((height) => (
                        <option key={height} value={height}>
                            {height} pixels
                        </option>
                    ))}
                </select>{' '}
                (the desk is drawn anew)
            </label>
            <label>
                Letters elsewhere{' '}
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
