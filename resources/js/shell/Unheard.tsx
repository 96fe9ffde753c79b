import { useUnheard } from '@/commands/command';

/** What was sent and not answered: it stands above everything until it is known what became of it. */
export function Unheard() {
    const list = useUnheard((state) => state.list);
    if (list.length === 0) return null;
    return (
        <div className="unheard" role="alert" data-field="unheard">
            {list.map((command) => (
                <p key={command.id}>
                    No answer yet: <b>{command.words}</b>. Checking whether it arrived; it is not sent twice.
                </p>
            ))}
        </div>
    );
}
