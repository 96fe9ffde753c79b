import clsx from 'clsx';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
    open: boolean;
    close: () => void;
    title: string;
    children: ReactNode;
    /** for tests and tools */
    name: string;
    className?: string;
}

/** A sheet over the desk: what lies behind it takes neither focus nor presses, the panic keys go on. Esc closes it. */
export function Sheet({ open, close, title, children, name, className }: Props) {
    return (
        <Dialog.Root open={open} onOpenChange={(to) => to || close()}>
            <Dialog.Portal>
                <Dialog.Overlay className="fixed inset-0 z-question bg-black/10" />
                <Dialog.Content
                    aria-describedby={undefined}
                    data-modal
                    data-field={name}
                    className={clsx(
                        'fixed inset-0 z-question m-auto h-fit max-h-[96vh] w-[min(900px,96vw)] overflow-y-auto rounded-sheet border-2 border-ink bg-raised px-24 py-18',
                        className,
                    )}
                >
                    <Dialog.Title className="mb-8 text-title font-bold">{title}</Dialog.Title>
                    {children}
                </Dialog.Content>
            </Dialog.Portal>
        </Dialog.Root>
    );
}
