import clsx from 'clsx';
import { type ReactNode, useRef } from 'react';
import { BUTTON, type ButtonTone } from './looks';
import { Tip } from './Tip';

interface Props {
    label: ReactNode;
    keyName?: string;
    held?: boolean;
    tone?: ButtonTone;
    disabled?: boolean;
    /** @param at when it was pressed: the event's time stamp, ms */
    act: (at: number) => void;
    name?: string;
    title?: string;
    /** how it takes its place */
    className?: string;
}

/**
 * A button that trades: it takes no focus from the pointer, and Space and Enter never fire it (its own key does). It does
 * what was painted on it as the pointer went down, whatever price stands there when it is let go.
 */
export function OrderButton({ label, keyName, held = false, tone = 'usual', disabled = false, act, name, title, className }: Props) {
    const painted = useRef<((at: number) => void) | null>(null);
    return (
        <Tip words={title}>
            <button
                type="button"
                tabIndex={-1}
                className={clsx(BUTTON[tone], held && 'bg-amber! text-on-amber!', className)}
                data-held={held || undefined}
                disabled={disabled}
                data-action={name}
                aria-description={title}
                onPointerDown={() => {
                    painted.current = act;
                }}
                onKeyDown={(event) => (event.key === ' ' || event.key === 'Enter') && event.preventDefault()}
                onKeyUp={(event) => event.key === ' ' && event.preventDefault()}
                onClick={(event) => {
                    // A press that was slid off has left its own behind: what comes without a pointer means what stands there now.
                    const does = event.detail === 0 ? act : (painted.current ?? act);
                    painted.current = null;
                    does(event.timeStamp);
                }}
            >
                {label}
                {keyName && <kbd>{keyName}</kbd>}
            </button>
        </Tip>
    );
}
