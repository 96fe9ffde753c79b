import { AlertDialog } from 'radix-ui';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { documentInFront } from './windows';

interface Props {
    title: string;
    words: ReactNode;
    /** what Esc does */
    leave: () => void;
    /** the answers; the one with `data-safe` has the focus, where a press has opened it */
    children: ReactNode;
    /** it opens without a press: what the hand was about to press is not for it */
    byItself?: boolean;
    /** for tests and tools */
    name?: string;
}

/** So long after it has opened by itself a key is still meant for what stood there before, ms. */
const UNREAD_MS = 500;

/** A question over everything in the window in front, with the answer that changes nothing in focus. */
export function Ask({ title, words, leave, children, byItself = false, name }: Props) {
    const content = useRef<HTMLDivElement>(null);
    const [openedAt] = useState(() => performance.now());
    // In the window that it was raised in: the desk's own may be on another screen.
    const [stage] = useState(documentInFront);
    useEffect(() => {
        const window = stage.defaultView;
        window?.addEventListener('pagehide', leave);
        return () => window?.removeEventListener('pagehide', leave);
    }, [stage, leave]);
    return (
        <AlertDialog.Root open>
            <AlertDialog.Portal container={stage.body}>
                <AlertDialog.Overlay className="fixed inset-0 z-question bg-[rgb(28_39_51/25%)]" />
                <AlertDialog.Content
                    ref={content}
                    data-modal
                    data-field={name}
                    data-part="question"
                    className="fixed inset-x-0 bottom-160 z-question mx-auto flex w-fit max-w-[96vw] items-center gap-12 rounded-card border-2 border-ink bg-amber px-14 py-8 text-on-amber"
                    onOpenAutoFocus={(event) => {
                        event.preventDefault();
                        if (byItself) content.current?.focus();
                        else content.current?.querySelector<HTMLElement>('[data-safe]')?.focus();
                    }}
                    onKeyDownCapture={(event) => {
                        if (!byItself || performance.now() - openedAt > UNREAD_MS || !['Enter', ' '].includes(event.key)) return;
                        event.preventDefault();
                        event.stopPropagation();
                    }}
                    onEscapeKeyDown={(event) => {
                        event.preventDefault();
                        leave();
                    }}
                >
                    <AlertDialog.Title className="sr-only">{title}</AlertDialog.Title>
                    <AlertDialog.Description className="font-bold">{words}</AlertDialog.Description>
                    {children}
                </AlertDialog.Content>
            </AlertDialog.Portal>
        </AlertDialog.Root>
    );
}
