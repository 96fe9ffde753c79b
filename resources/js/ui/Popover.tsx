import clsx from 'clsx';
import { Popover as Radix } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { documentInFront } from './windows';

interface Props {
    /** the button that opens it */
    trigger: ReactNode;
    children: ReactNode;
    align: 'start' | 'end';
    className?: string;
}

/** What is set seldom, beside the button that opens it. */
export function Popover({ trigger, children, align, className }: Props) {
    // Its button may stand in a window of a panel's own.
    const [stage, setStage] = useState<Document>(document);
    return (
        <Radix.Root onOpenChange={(opens) => opens && setStage(documentInFront())}>
            <Radix.Trigger asChild>{trigger}</Radix.Trigger>
            <Radix.Portal container={stage.body}>
                <Radix.Content
                    align={align}
                    sideOffset={4}
                    data-part="popover"
                    className={clsx(
                        'z-list flex flex-col gap-8 rounded-card border border-rule bg-raised px-14 py-12 text-usual text-ink shadow-over',
                        className,
                    )}
                >
                    {children}
                </Radix.Content>
            </Radix.Portal>
        </Radix.Root>
    );
}
