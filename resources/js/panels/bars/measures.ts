/** Widths of the buy lane, the price axis and the sell lane at the right edge, as bars.css has them, in pixels. */
export const LANE = 110;
export const AXIS = 72;
export const RIGHT = 2 * LANE + AXIS;
