import { NOTES } from './chipLooks';

/** Short words in a lane that are no order. */
export function Note({ kind, text }: { kind: keyof typeof NOTES; text: string }) {
    return (
        <span className={NOTES[kind]} data-part="note" data-kind={kind}>
            {text}
        </span>
    );
}
