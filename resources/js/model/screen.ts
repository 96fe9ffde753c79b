import { create } from 'zustand';

export type Screen = 'desk' | 'plans';

const read = (): Screen => (location.hash === '#plans' ? 'plans' : 'desk');

/** Which screen is in front; the address keeps it, so that a reload and the browser's way back find it again. */
export const useScreen = create<{ screen: Screen }>(() => ({ screen: read() }));

window.addEventListener('hashchange', () => useScreen.setState({ screen: read() }));

export function show(screen: Screen): void {
    location.hash = screen === 'desk' ? '' : screen;
}

/** Keys act on the screen that is in front; those that a window of its own hands on act on the desk, whatever is. */
export const isFor = (screen: Screen, event: KeyboardEvent): boolean => screen === (event.isTrusted ? useScreen.getState().screen : 'desk');
