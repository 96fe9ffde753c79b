import { type Modifiers, useTouchModifiers } from '@/model/useModifiers';
import { Tool, Toolbar } from '@/ui/Toolbar';
import { WORDS } from './words';

const CHOICES: [id: string, words: string, modifiers: Modifiers | null][] = [
    ['plain', WORDS.usualKind, null],
    ['other', 'the other kind', { shift: true, alt: false, draft: false }],
    ['stop-limit', 'stop-limit', { shift: true, alt: true, draft: false }],
    ['draft', 'a draft', { shift: false, alt: false, draft: true }],
];

/** What the keys that change a click give, for a finger: chosen here, said by the strip, sent by the next touch of the rung. */
export function TouchMenu({ close }: { close: () => void }) {
    return (
        <Toolbar
            label={WORDS.nextTouch}
            className="absolute inset-x-0 top-28 z-sheet flex flex-wrap gap-8 border-b-2 border-ink bg-raised px-12 py-8"
            data-part="touch-menu"
        >
            {CHOICES.map(([id, words, modifiers]) => (
                <Tool
                    key={id}
                    tone="usual"
                    data-name={`touch-${id}`}
                    onClick={() => {
                        useTouchModifiers.setState({ modifiers });
                        close();
                    }}
                >
                    {words}
                </Tool>
            ))}
        </Toolbar>
    );
}
