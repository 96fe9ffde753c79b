import { AccountMark } from '@/panels/top/AccountMark';
import { Ask } from '@/ui/Ask';
import { Button } from '@/ui/Button';
import { useQuestion } from '@/ui/question';

/** A question stands over everything, with the answer that changes nothing in focus. Behind it only the panic keys work. */
export function Asked() {
    const question = useQuestion((state) => state.question);
    if (question === null) return null;
    const close = (then?: () => void) => {
        useQuestion.setState({ question: null });
        then?.();
    };
    return (
        // A newer question is another one: its own safe answer takes the focus.
        <Ask key={`${question.title} ${question.words}`} title={question.title} words={question.words} leave={() => close(question.leave)}>
            <AccountMark />
            <Button tone="answer" data-safe onClick={() => close(question.leave)}>
                {question.safe}
            </Button>
            {question.answers.map(({ label, act, name }) => (
                <Button key={label} tone="answer" data-name={name} onClick={() => close(act)}>
                    {label}
                </Button>
            ))}
        </Ask>
    );
}
