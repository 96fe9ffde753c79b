/** Utilities of the kit that more than one of its parts take. */

const PRESSED = 'cursor-pointer hover:not-disabled:border-ink disabled:cursor-default disabled:text-soft tabular-nums';
/** A finger needs more than a pointer does. */
const FINGER = 'pointer-coarse:min-h-32 pointer-coarse:min-w-32';
const SHAPE = `rounded-card border text-ink ${PRESSED} ${FINGER}`;
const BORDERED = `${SHAPE} border-rule bg-paper`;
const SMALL = `${BORDERED} px-6 text-small font-medium`;

/** How buttons look. Those that trade take the same looks, see OrderButton; what they do stands apart from it. */
export const BUTTON = {
    usual: `${BORDERED} min-h-28 px-8 py-2 font-semibold`,
    strong: `${SHAPE} min-h-28 border-ink bg-raised px-8 py-2 font-semibold`,
    small: SMALL,
    /** where there is hardly room */
    tiny: `${BORDERED} px-4 text-tiny leading-15 font-medium whitespace-nowrap`,
    /** one of several beside each other in a card */
    row: `${BORDERED} min-h-24 px-4 py-2 text-small font-semibold whitespace-nowrap short:min-h-20 short:py-1 short:leading-15`,
    /** in the amber of an alarm */
    alarm: `${BORDERED} flex-auto px-6 py-1 text-usual font-semibold whitespace-nowrap tight:px-4 tight:text-small`,
    /** with a price, a word and a key */
    quick: `${BORDERED} flex min-h-34 items-center justify-between px-6 py-2 text-small font-semibold whitespace-nowrap short:min-h-20 short:py-1 short:leading-13`,
    tile: `${BORDERED} flex min-h-28 min-w-170 items-center px-8 py-2 text-left font-semibold`,
    /** under a thumb */
    touch: `${BORDERED} min-h-48 px-10 text-body font-semibold`,
    /** an answer on amber */
    answer: 'cursor-pointer rounded-card border border-ink bg-raised px-12 py-4 text-ink',
    /** a word among words */
    text: 'rounded-field px-6 py-1 text-small text-soft hover:bg-shade hover:text-ink disabled:opacity-35',
    /** a word in a row of figures */
    link: 'px-1 text-right font-text text-tiny text-ink underline decoration-rule underline-offset-2',
    /** an act in a table's row */
    cell: 'cursor-pointer underline',
    /** one of a few, side by side: `aria-pressed` or the state says which */
    choice: `rounded-field border border-rule bg-paper px-4 ${PRESSED} aria-pressed:border-ink aria-pressed:font-bold data-[state=on]:border-ink data-[state=on]:font-bold`,
    /** one of a row of tools above a picture */
    tool: 'cursor-pointer rounded-chip border border-rule bg-raised px-5 leading-14 text-ink disabled:cursor-default disabled:opacity-40 pointer-coarse:min-h-32 pointer-coarse:min-w-32',
    /** over the end of a row that goes on */
    edge: 'absolute inset-y-0 z-line cursor-pointer border-rule bg-raised px-4 text-tiny font-semibold whitespace-nowrap text-soft hover:text-ink',
    /** one tick less, or more */
    step: 'size-18 pointer-coarse:size-32 rounded-field border border-rule bg-paper leading-14',
} as const;

export type ButtonTone = keyof typeof BUTTON;

export const FIELD = 'min-w-0 rounded-field border border-soft bg-field px-4 py-1 text-ink pointer-coarse:min-h-32';

/** Around what belongs together. */
export const FRAME = 'rounded-card border border-rule px-10 py-6';

/** A figure that becomes a field when it is pressed. */
export const EDIT = 'cursor-pointer border-b border-dotted border-soft leading-16';
