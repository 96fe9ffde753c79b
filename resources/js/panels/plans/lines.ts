/** How the drawings of a plan draw the stop, break-even and targets. */
export const STOP = 'fill-none stroke-exit stroke-2';
export const EVEN = 'stroke-soft [stroke-dasharray:3_3]';
export const TARGET = 'fill-none stroke-exit [stroke-dasharray:1_3]';
export const DRAWING = 'w-full flex-none touch-none rounded-card border border-rule bg-raised [&_text]:font-mono [&_text]:text-tiny';
