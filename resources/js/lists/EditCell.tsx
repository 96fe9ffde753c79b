import { useState } from 'react';
import type { Order } from '@/api/client';
import { change as changeOrder } from '@/desk/actions';

interface Props {
    order: Order;
    label: string;
    /** as it is shown, and as it stands in the field */
    shown: string;
    value: string;
    /** what is asked for, as the API takes it; null where what was typed is nothing */
    change: (typed: string) => object | null;
    /** what the change would cost, said while it is typed */
    warn?: (typed: string) => string;
}

/** A cell that becomes a field when it is pressed: Enter sends the change, Esc leaves it. */
export function EditCell({ order, label, shown, value, change, warn }: Props) {
    const [typed, setTyped] = useState<string | null>(null);
    if (typed === null) {
        return (
            <button
                type="button"
                tabIndex={-1}
                className="edit"
                title={`Change the ${label}`}
                data-edit={label}
                onClick={() => setTyped(value)}
            >
                {shown}
            </button>
        );
    }
    const send = () => {
        const asked = typed === value ? null : change(typed);
        setTyped(null);
        if (asked) changeOrder(order, asked);
    };
    const warning = warn?.(typed) ?? '';
    return (
        <>
            <input
                // biome-ignore lint/a11y/noAutofocus: it was asked for by a press on this very cell
                autoFocus
                type="text"
                className="edit"
                aria-label={`New ${label} of order ${order.id}`}
                value={typed}
                onChange={(event) => setTyped(event.target.value)}
                onFocus={(event) => event.target.select()}
                onBlur={() => setTyped(null)}
                onKeyDown={(event) => {
                    event.stopPropagation();
                    if (event.key === 'Enter') send();
                    if (event.key === 'Escape') setTyped(null);
                }}
            />
            {warning !== '' && <small role="status">{warning}</small>}
        </>
    );
}
