/** What was refused, and why; nothing where there is nothing to say. */
export function Fault({ words, name }: { words: string /** for tests and tools */; name?: string }) {
    if (words === '') return null;
    return (
        <p className="bg-amber px-6 py-2 text-on-amber" role="alert" data-part="fault" data-field={name}>
            {words}
        </p>
    );
}
