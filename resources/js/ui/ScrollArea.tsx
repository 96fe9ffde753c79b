import clsx from 'clsx';
import { getNonce } from 'get-nonce';
import { ScrollArea as Radix } from 'radix-ui';
import type { ComponentProps } from 'react';

/**
 * What is scrolled where there is no room for all of it; its bar lies over its edge and takes no room. Not for panels: they move
 * to windows of their own, whose policy has another nonce for the styles that this brings with it.
 */
export function ScrollArea({ className, children, ...rest }: ComponentProps<typeof Radix.Root>) {
    return (
        // As high as what is in it, or as high as there is room.
        <Radix.Root type="auto" className={clsx('flex min-h-0 flex-col overflow-hidden', className)} {...rest}>
            <Radix.Viewport nonce={getNonce()} className="min-h-0 w-full flex-auto [&>div]:block!" data-part="scrolled">
                {children}
            </Radix.Viewport>
            <Radix.Scrollbar orientation="vertical" className="w-7 touch-none p-1 select-none">
                <Radix.Thumb className="rounded-full bg-soft/50" />
            </Radix.Scrollbar>
        </Radix.Root>
    );
}
