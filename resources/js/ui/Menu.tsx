import { DropdownMenu } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { documentInFront } from './windows';

interface Choice {
    id: string;
    words: string;
    checked: boolean;
    turn: (checked: boolean) => void;
}

interface Props {
    /** the button that opens it */
    trigger: ReactNode;
    label: string;
    choices: Choice[];
}

/** Choices of which any number hold, beside the button that opens them. It stays open while they are made. */
export function Menu({ trigger, label, choices }: Props) {
    // Its button may stand in a window of a panel's own.
    const [stage, setStage] = useState<Document>(document);
    return (
        <DropdownMenu.Root modal={false} onOpenChange={(opens) => opens && setStage(documentInFront())}>
            <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
            <DropdownMenu.Portal container={stage.body}>
                <DropdownMenu.Content
                    align="end"
                    sideOffset={2}
                    aria-label={label}
                    data-part="menu"
                    // Letters look for a choice here; they are no keys of the desk meanwhile.
                    data-modal
                    className="z-list max-w-300 columns-2 rounded-card border border-soft bg-raised px-8 py-6 text-small text-ink shadow-over"
                >
                    {choices.map(({ id, words, checked, turn }) => (
                        <DropdownMenu.CheckboxItem
                            key={id}
                            textValue={words}
                            checked={checked}
                            onCheckedChange={turn}
                            onSelect={(event) => event.preventDefault()}
                            className="relative cursor-pointer rounded-field py-2 pr-8 pl-22 whitespace-nowrap outline-none data-[highlighted]:bg-shade pointer-coarse:py-8"
                        >
                            <DropdownMenu.ItemIndicator className="absolute left-6">✓</DropdownMenu.ItemIndicator>
                            {words}
                        </DropdownMenu.CheckboxItem>
                    ))}
                </DropdownMenu.Content>
            </DropdownMenu.Portal>
        </DropdownMenu.Root>
    );
}
