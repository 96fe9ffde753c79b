import { useEffect, useRef } from 'react';
import { useQuestion } from '@/ui/question';

/** A question stands over everything, with the answer that changes nothing in focus. Behind it only the panic keys work. */
export function Asked() {
    const question = useQuestion((state) => state.question);
    const dialog = useRef<HTMLDialogElement>(null);
    const safe = useRef<HTMLButtonElement>(null);
    useEffect(() => {
        if (question === null) return;
        // The browser's own modal: what lies behind it takes neither focus nor presses.
        if (!dialog.current?.open) dialog.current?.showModal();
        safe.current?.focus();
    }, [question]);
    if (question === null) return null;
    const close = (then?: () => void) => {
        useQuestion.setState({ question: null });
        then?.();
    };
    return (
        <dialog
            ref={dialog}
            className="doubt"
            role="alertdialog"
            aria-label={question.title}
            aria-describedby="question"
            onCancel={(event) => {
                event.preventDefault();
                close(question.leave);
            }}
        >
            <p id="question">{question.words}</p>
            <button ref={safe} type="button" onClick={() => close(question.leave)}>
                {question.safe}
            </button>
            {question.answers.map(({ label, act, name }) => (
                <button key={label} type="button" data-name={name} onClick={() => close(act)}>
                    {label}
                </button>
            ))}
        </dialog>
    );
}
