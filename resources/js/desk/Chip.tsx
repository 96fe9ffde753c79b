import clsx from 'clsx';
import type { Order } from '@/api/client';
import { sendDraft } from './drafts';

export interface ChipData {
    /** an order's id, or a draft's */
    id: number;
    lots: number;
    role: Order['role'] | 'draft';
    words: string;
    /** a command is under way, or (a draft) it is the one that Enter sends */
    mark: 'pending' | 'chosen' | '';
}

export interface ChipHandlers {
    /** the button went down on a chip: it may be dragged from here */
    onGrab: (chip: ChipData) => void;
    onCancel: (chip: ChipData) => void;
}

const still = (event: { preventDefault: () => void }) => event.preventDefault();

/** One order or draft in its lane. A press on it places nothing; it can be dragged, and its cross takes it away. */
export function Chip({ chip, onGrab, onCancel }: { chip: ChipData } & ChipHandlers) {
    const isDraft = chip.role === 'draft';
    return (
        <span
            className={clsx('chip', chip.role, chip.mark)}
            {...(isDraft ? { 'data-draft': chip.id } : { 'data-order': chip.id })}
            data-role={chip.role}
            onPointerDown={(event) => {
                event.stopPropagation();
                if (event.button === 0 && !(event.target instanceof HTMLButtonElement)) onGrab(chip);
            }}
        >
            <b>{chip.lots}</b> {chip.words}
            {isDraft && (
                <button type="button" tabIndex={-1} className="send" onMouseDown={still} onClick={() => sendDraft(chip.id)}>
                    Send
                </button>
            )}
            <button
                type="button"
                tabIndex={-1}
                aria-label={isDraft ? 'Drop the draft' : `Cancel order ${chip.id}`}
                onMouseDown={still}
                onClick={() => onCancel(chip)}
            >
                ×
            </button>
        </span>
    );
}
