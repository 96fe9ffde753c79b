import { Tabs as Radix } from 'radix-ui';
import type { ComponentType } from 'react';

interface Props {
    label: string;
    pages: readonly [id: string, title: string, page: ComponentType][];
    /** the page in sight */
    value: string;
    set: (id: string) => void;
}

/** Pages of which one is in sight, with their titles above it. */
export function Tabs({ label, pages, value, set }: Props) {
    return (
        <Radix.Root value={value} onValueChange={set}>
            <Radix.List aria-label={label} className="mb-8 flex gap-18">
                {pages.map(([id, title]) => (
                    <Radix.Trigger
                        key={id}
                        value={id}
                        className="cursor-pointer border-b-2 border-transparent data-[state=active]:border-ink data-[state=active]:font-bold"
                    >
                        {title}
                    </Radix.Trigger>
                ))}
            </Radix.List>
            {pages.map(([id, , Page]) => (
                <Radix.Content key={id} value={id}>
                    <Page />
                </Radix.Content>
            ))}
        </Radix.Root>
    );
}
