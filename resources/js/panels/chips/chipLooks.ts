/** Chips and notes in a lane: the place says the side, the look says the purpose. */
const SHAPE = 'm-1 h-16 flex-none rounded-chip border font-text text-tiny leading-14 whitespace-pre';

/** A lane with little room gives it to the words. */
const TIGHT = '@max-[860px]/slot:gap-1 @max-[860px]/slot:pr-1 @max-[860px]/slot:pl-2 @max-[860px]/slot:text-micro';

export const CHIP = `${SHAPE} group/chip flex gap-2 pr-1 pl-4 data-chosen:outline-2 data-chosen:outline-offset-1 data-chosen:outline-ink`;

const ENTRY = `border-ink bg-ink text-raised ${TIGHT}`;

export const PURPOSE = {
    entry: ENTRY,
    close: ENTRY,
    stop: `border-exit border-l-4 border-l-ink bg-exit text-raised ${TIGHT}`,
    target: `border-exit bg-raised text-exit ${TIGHT}`,
    draft: 'border-dashed border-ink bg-raised text-ink',
    sending: `cursor-default border-x-3 border-ink bg-raised text-ink ${TIGHT}`,
    wanted: `cursor-default border-dotted border-ink bg-raised pr-6! text-ink ${TIGHT}`,
};

const NOTE = `${SHAPE} pointer-events-none border-dashed pr-6 pl-4`;

export const NOTES = {
    ghost: `${NOTE} border-ink text-ink`,
    exit: `${NOTE} border-exit text-exit`,
    refused: `${NOTE} border-ink bg-amber text-on-amber`,
};
