import clsx from 'clsx';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { createHolding } from './holding';
import { BUTTON } from './looks';
import { onPointerGone } from './pointerGone';

interface Props {
    label: ReactNode;
    act: () => void;
    disabled?: boolean;
    name: string;
}

/** Acts once a finger has rested on it for as long as a key would be held: a thumb that brushes it does nothing. */
export function HoldButton({ label, act, disabled = false, name }: Props) {
    const [isHeld, setHeld] = useState(false);
    const holding = useMemo(() => createHolding((ids) => setHeld(ids.includes(name))), [name]);
    useEffect(() => holding.dropAll, [holding]);
    return (
        <button
            type="button"
            className={clsx(BUTTON.touch, 'touch-none border-ink! select-none', isHeld && 'bg-amber! text-on-amber!')}
            disabled={disabled}
            data-action={name}
            data-held={isHeld || undefined}
            onPointerDown={(event) => {
                if (event.button !== 0) return;
                holding.down(name, name, event.timeStamp, act);
                onPointerGone(event, (at) => holding.up(name, at), holding.dropAll);
            }}
            onPointerLeave={holding.dropAll}
            onContextMenu={(event) => event.preventDefault()}
            // Whoever works it without a pointer has no finger to rest.
            onClick={(event) => event.detail === 0 && act()}
        >
            {label} <small className="font-normal text-soft">hold</small>
        </button>
    );
}
