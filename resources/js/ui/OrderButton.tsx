import clsx from 'clsx';
import type { ReactNode } from 'react';
import { still } from './still';

interface Props {
    label: ReactNode;
    keyName?: string;
    held?: boolean;
    tone?: 'plain' | 'strong' | 'small';
    disabled?: boolean;
    /** @param at when it was pressed: the event's time stamp, ms */
    act: (at: number) => void;
    name?: string;
    title?: string;
}

/** A button that trades: it takes no focus from the pointer, and Space and Enter never fire it (its own key does). */
export function OrderButton({ label, keyName, held = false, tone = 'plain', disabled = false, act, name, title }: Props) {
    return (
        <button
            type="button"
            tabIndex={-1}
            className={clsx('order-button', tone !== 'plain' && tone, held && 'held')}
            disabled={disabled}
            data-action={name}
            title={title}
            onMouseDown={still}
            onKeyDown={(event) => (event.key === ' ' || event.key === 'Enter') && event.preventDefault()}
            onKeyUp={(event) => event.key === ' ' && event.preventDefault()}
            onClick={(event) => act(event.timeStamp)}
        >
            {label}
            {keyName && <kbd>{keyName}</kbd>}
        </button>
    );
}
