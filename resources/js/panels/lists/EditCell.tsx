import { useState } from 'react';
import type { Order } from '@/api/client';
import { change, type OrderChange } from '@/commands/actions';
import { useChangeCost } from '@/commands/changeCost';
import { EDIT } from '@/ui/looks';
import { WORDS } from './words';

interface Props {
    order: Order;
    label: string;
    /** as it is shown, and as it stands in the field */
    shown: string;
    value: string;
    /** what is asked for, as the API takes it; null where what was typed is nothing */
    asks: (typed: string) => OrderChange | null;
}

/** A cell that becomes a field when it is pressed: Enter sends the change, Esc leaves it. */
export function EditCell({ order, label, shown, value, asks }: Props) {
    const [typed, setTyped] = useState<string | null>(null);
    const asked = typed === null || typed === value ? null : asks(typed);
    const cost = useChangeCost(order, asked);
    if (typed === null) {
        return (
            <button
                type="button"
                tabIndex={-1}
                className={EDIT}
                title={WORDS.changeCell(label)}
                data-edit={label}
                onClick={() => setTyped(value)}
            >
                {shown}
            </button>
        );
    }
    const send = () => {
        setTyped(null);
        if (asked) void change(order, asked, false);
    };
    return (
        <>
            <input
                // biome-ignore lint/a11y/noAutofocus: it was asked for by a press on this very cell
                autoFocus
                type="text"
                data-part="edit"
                className="h-20 w-full border border-ink bg-field px-2 font-mono text-small leading-[normal] text-ink"
                aria-label={WORDS.newOfOrder(label, order.id)}
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
            {cost !== '' && (
                <small role="status" className="absolute z-line ml-4 bg-amber px-6 text-on-amber">
                    {cost}
                </small>
            )}
        </>
    );
}
