import { create } from 'zustand';

interface Answer {
    label: string;
    act: () => void;
    /** for tests and tools */
    name?: string;
}

export interface Question {
    title: string;
    words: string;
    /** what changes nothing: it has the focus, and Esc is it */
    safe: string;
    leave?: () => void;
    answers: Answer[];
}

/** What is asked before something is done that cannot be taken back. One at a time, over everything: a newer one leaves the one before. */
export const useQuestion = create<{ question: Question | null }>(() => ({ question: null }));

export function ask(question: Question): void {
    const before = useQuestion.getState().question;
    useQuestion.setState({ question });
    before?.leave?.();
}
