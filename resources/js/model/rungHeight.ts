const HEIGHTS = 'lotrik.rung-height';

/** Pixels from one rung to the next; chosen in the settings, and read once: nothing may move under the pointer. */
export const RUNG_HEIGHT = Number(localStorage.getItem(HEIGHTS)) || 18;
document.documentElement.style.setProperty('--rung', `${RUNG_HEIGHT}px`);

/** The desk is drawn anew with it. */
export function setRungHeight(height: number): void {
    localStorage.setItem(HEIGHTS, String(height));
    location.reload();
}
