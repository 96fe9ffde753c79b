/** What lies across the bars at a height, by its name. */
export interface Name {
    id: string;
    words: string;
    /** pixels from the top */
    y: number;
}

const LINE_PX = 15;

/** Each beside its line, or as near to it as the others leave room; those that there is no room for at all are left out. */
function placed(names: readonly Name[], height: number): Name[] {
    let free = 0;
    const down = names
        .slice(0, Math.floor(height / LINE_PX))
        .sort((one, other) => one.y - other.y)
        .map((name) => {
            const y = Math.max(free, name.y - LINE_PX / 2);
            free = y + LINE_PX;
            return { ...name, y };
        });
    let most = height;
    return down.reverse().map((name) => {
        const y = Math.max(0, Math.min(name.y, most - LINE_PX));
        most = y;
        return { ...name, y };
    });
}

/** At the left of the bars, where none is drawn: none lies over a bar, or over another name. */
export function Names({ names, width, height }: { names: readonly Name[]; width: number; height: number }) {
    return (
        <>
            {placed(names, height).map(({ id, words, y }) => (
                <span
                    key={id}
                    className="pointer-events-none absolute left-2 z-line truncate rounded-chip bg-raised px-4 text-tiny leading-15"
                    style={{ top: y, maxWidth: width - 4 }}
                    data-part="bars-name"
                >
                    {words}
                </span>
            ))}
        </>
    );
}
