import type { ReactNode } from 'react';
import { ScrollArea } from '@/ui/ScrollArea';

export const FIELDS = 'grid grid-cols-2 gap-x-8 gap-y-4';
export const LABEL = 'grid text-soft';

/** A page of the settings. All are of one size, so that the sheet stays as it is from one to the other. */
export function Page({ children, name }: { children: ReactNode /** for tests and tools */; name?: string }) {
    return (
        <ScrollArea className="h-470" data-part={name}>
            <div className="flex flex-col gap-8 pr-8 text-usual">{children}</div>
        </ScrollArea>
    );
}
