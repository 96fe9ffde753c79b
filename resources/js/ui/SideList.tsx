import { Popover as Radix } from 'radix-ui';
import { type ReactNode, type RefObject, useRef, useState } from 'react';
import { documentInFront } from './windows';

interface Props {
    /** the button that opens it */
    trigger: ReactNode;
    children: ReactNode;
    /** what it stands beside */
    beside: RefObject<HTMLElement | null>;
    open: boolean;
    setOpen: (open: boolean) => void;
    name: string;
}

/** What a card has no room for, at its left. It belongs to the desk: the keys stay there, also while it is pressed. */
export function SideList({ trigger, children, beside, open, setOpen, name }: Props) {
    // Its button may stand in a window of a panel's own.
    const [stage, setStage] = useState<Document>(document);
    const isByKeys = useRef(false);
    return (
        <Radix.Root
            open={open}
            onOpenChange={(opens) => {
                if (opens) setStage(documentInFront());
                setOpen(opens);
            }}
        >
            <Radix.Anchor virtualRef={beside as RefObject<HTMLElement>} />
            <Radix.Trigger asChild>{trigger}</Radix.Trigger>
            <Radix.Portal container={stage.body}>
                <Radix.Content
                    align="start"
                    side="left"
                    sideOffset={4}
                    collisionPadding={8}
                    data-part="side-list"
                    data-name={name}
                    // Opened by the pointer it takes no focus; by keys it is walked like any other, and gives the focus back.
                    onOpenAutoFocus={(event) => {
                        isByKeys.current = stage.activeElement !== stage.body;
                        if (!isByKeys.current) event.preventDefault();
                    }}
                    onCloseAutoFocus={(event) => !isByKeys.current && event.preventDefault()}
                    className="z-list flex max-h-[70vh] w-330 flex-col gap-4 overflow-y-auto rounded-card border border-ink bg-raised p-8 text-usual text-ink shadow-over scrollbar-thin"
                >
                    {children}
                </Radix.Content>
            </Radix.Portal>
        </Radix.Root>
    );
}
