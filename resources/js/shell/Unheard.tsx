import { useUnheard } from '@/commands/command';
import { WORDS } from './words';

/** What was sent and not answered: it stands above everything until it is known what became of it. */
export function Unheard() {
    const list = useUnheard((state) => state.list);
    if (list.length === 0) return null;
    return (
        <div className="max-h-[30vh] overflow-y-auto bg-amber px-14 py-4 text-on-amber" role="alert" data-field="unheard">
            {list.map((command) => (
                <p key={command.id} className="my-2">
                    No answer yet: <b>{command.words}</b>
                    {WORDS.checking}
                </p>
            ))}
        </div>
    );
}
