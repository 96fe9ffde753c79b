/** What has moved under the pointer takes no press for so long, in ms. */
export const SETTLE_MS = 250;
