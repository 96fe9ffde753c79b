import { Tooltip } from 'radix-ui';
import { type ReactElement, useState } from 'react';
import { documentInFront } from './windows';

/** Around everything that has tips: they come at once where one was there a moment ago. */
export const Tips = Tooltip.Provider;

/** What a button does beyond its label, once the pointer rests on it or it has the focus. It takes no press. */
export function Tip({ words, children }: { words: string | undefined; children: ReactElement }) {
    // Its button may stand in a window of a panel's own.
    const [stage, setStage] = useState<Document>(document);
    if (!words) return children;
    return (
        <Tooltip.Root onOpenChange={(opens) => opens && setStage(documentInFront())}>
            <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
            <Tooltip.Portal container={stage.body}>
                <Tooltip.Content
                    sideOffset={4}
                    collisionPadding={4}
                    data-part="tip"
                    className="pointer-events-none z-question max-w-300 rounded-field border border-soft bg-raised px-8 py-3 text-small text-ink shadow-over"
                >
                    {words}
                </Tooltip.Content>
            </Tooltip.Portal>
        </Tooltip.Root>
    );
}
