import clsx from 'clsx';
import type { PointerEvent } from 'react';
import type { Order } from '@/api/client';
import { sendDraft } from '@/commands/drafts';
import { Hand } from '@/ui/Hand';
import { CHIP, PURPOSE } from './chipLooks';
import { WORDS } from './words';

export interface ChipData {
    /** an order's id, or a draft's */
    id: number;
    /** still to fill, and the order's whole size */
    lots: number;
    of: number;
    /** `wanted`: where the chosen order would stand once its change is sent; `sending`: a command that is on its way */
    role: Order['role'] | 'draft' | 'wanted' | 'sending';
    words: string;
    /** what the words leave out: whose it is, whose hand moves it, what it is tied to */
    more: string;
    /** a stop that the trader has taken off its ratchets */
    byHand: boolean;
    /** lots in the queue before it; null where it stands in none */
    ahead: number | null;
    /** a command is under way; or it is the one that keys and wheel act on */
    mark: 'pending' | 'chosen' | '';
    /** of what is on its way */
    command?: string;
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

const ACT = 'cursor-pointer px-3';
/** With little room it comes with the pointer: the words have the room. */
const CROSS =
    '@max-[860px]/slot:hidden @max-[860px]/slot:group-hover/chip:inline-block @max-[860px]/slot:group-data-chosen/chip:inline-block';

/** One order or draft in its lane. A press on it places nothing; it can be dragged, and its cross takes it away. */
export function Chip({ chip, narrow, onGrab, onCancel }: Props) {
    const isDraft = chip.role === 'draft';
    /** it stands there, and can be taken hold of */
    const isHeld = chip.role !== 'wanted' && chip.role !== 'sending';
    const lots = chip.lots === chip.of ? chip.lots : `${chip.lots}/${chip.of}`;
    return (
        <span
            className={clsx(
                CHIP,
                PURPOSE[chip.role],
                'max-w-1/2',
                isHeld && 'cursor-grab',
                narrow && 'pr-4! pl-4!',
                chip.mark === 'pending' && 'opacity-70',
            )}
            data-part="chip"
            data-chosen={chip.mark === 'chosen' || undefined}
            data-narrow={narrow || undefined}
            {...(isDraft ? { 'data-draft': chip.id } : isHeld ? { 'data-order': chip.id } : {})}
            data-role={chip.role}
            title={`${chip.lots} ${chip.words}${chip.more === '' ? '' : ` · ${chip.more}`}${chip.ahead === null ? '' : WORDS.ahead(chip.ahead)}${chip.lots === chip.of ? '' : WORDS.filled(chip.of - chip.lots, chip.of)}${narrow && chip.role === 'stop' ? WORDS.dragsAll : ''}`}
            onPointerDown={(event) => {
                event.stopPropagation();
                if (event.button === 0 && isHeld && !(event.target as Element).closest('button')) onGrab(chip, event);
            }}
        >
            <b>{lots}</b>
            {chip.byHand && <Hand />}
            {!narrow && (
                <>
                    {/* A draft's Send button says that it has not been sent. */}
                    {!isDraft && (
                        <span className="overflow-hidden text-ellipsis">
                            {chip.words}
                            {chip.ahead !== null && (
                                // The queue place comes with the list too; where a lane has room for it, it is said in words.
                                <small className="[font-size:inherit] opacity-85 @max-[860px]/slot:hidden">
                                    {' · '}
                                    {chip.ahead}
                                    <i className="hidden not-italic @min-[1100px]/slot:inline"> ahead</i>
                                </small>
                            )}
                        </span>
                    )}
                    {isDraft && (
                        <button
                            type="button"
                            tabIndex={-1}
                            className={`${ACT} ml-1 border-x border-current font-bold`}
                            onClick={() => sendDraft(chip.id)}
                        >
                            Send
                        </button>
                    )}
                    {(isHeld || chip.command !== undefined) && (
                        <button
                            type="button"
                            tabIndex={-1}
                            className={clsx(ACT, !isDraft && CROSS)}
                            aria-label={isDraft ? 'Drop the draft' : isHeld ? WORDS.cancelOrder(chip.id) : WORDS.giveUp}
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
