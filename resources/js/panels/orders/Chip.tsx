import clsx from 'clsx';
import type { PointerEvent } from 'react';
import type { Order } from '@/api/client';
import { sendDraft } from '@/commands/drafts';
import { Hand } from '@/ui/Hand';
import { still } from '@/ui/still';

export interface ChipData {
    /** an order's id, or a draft's */
    id: number;
    /** still to fill, and the order's whole size */
    lots: number;
    of: number;
    /** `wanted`: where the chosen order would stand once its change is sent */
    role: Order['role'] | 'draft' | 'wanted';
    words: string;
    /** what the words leave out: whose it is, whose hand moves it, what it is tied to */
    more: string;
    /** a stop that the trader has taken off its ratchets */
    byHand: boolean;
    /** lots in the queue before it; null where it stands in none */
    ahead: number | null;
    /** a command is under way; or it is the one that keys and wheel act on */
    mark: 'pending' | 'chosen' | '';
}

export interface ChipHandlers {
    /** the button went down on a chip: it may be dragged from here */
    onGrab: (chip: ChipData, event: PointerEvent<HTMLElement>) => void;
    onCancel: (chip: ChipData) => void;
}

interface Props extends ChipHandlers {
    chip: ChipData;
    /** only its lots are shown, since others share its rung */
    narrow: boolean;
}

/** One order or draft in its lane. A press on it places nothing; it can be dragged, and its cross takes it away. */
export function Chip({ chip, narrow, onGrab, onCancel }: Props) {
    const isDraft = chip.role === 'draft';
    const lots = chip.lots === chip.of ? chip.lots : `${chip.lots}/${chip.of}`;
    return (
        <span
            className={clsx('chip', chip.role, chip.mark, narrow && 'narrow')}
            {...(isDraft ? { 'data-draft': chip.id } : chip.role === 'wanted' ? {} : { 'data-order': chip.id })}
            data-role={chip.role}
            title={`${chip.lots} ${chip.words}${chip.more === '' ? '' : ` · ${chip.more}`}${chip.ahead === null ? '' : ` · ${chip.ahead} lots ahead of it`}${chip.lots === chip.of ? '' : `, ${chip.of - chip.lots} of ${chip.of} filled`}`}
            onPointerDown={(event) => {
                event.stopPropagation();
                if (event.button === 0 && chip.role !== 'wanted' && !(event.target as Element).closest('button')) onGrab(chip, event);
            }}
        >
            <b>{lots}</b>
            {chip.byHand && <Hand />}
            {!narrow && (
                <>
                    <span className="words">
                        {chip.words}
                        {chip.ahead !== null && (
                            <small>
                                {' · '}
                                {chip.ahead}
                                <i> ahead</i>
                            </small>
                        )}
                    </span>
                    {isDraft && (
                        <button type="button" tabIndex={-1} className="send" onMouseDown={still} onClick={() => sendDraft(chip.id)}>
                            Send
                        </button>
                    )}
                    {chip.role !== 'wanted' && (
                        <button
                            type="button"
                            tabIndex={-1}
                            aria-label={isDraft ? 'Drop the draft' : `Cancel order ${chip.id}`}
                            onMouseDown={still}
                            onClick={() => onCancel(chip)}
                        >
                            ×
                        </button>
                    )}
                </>
            )}
        </span>
    );
}
