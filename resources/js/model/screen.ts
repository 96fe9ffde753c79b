/** The screens that stand in front of the desk, by their addresses; the desk itself goes on behind them. */
export const PATHS = { desk: '/', plans: '/plans' } as const;

export type Screen = keyof typeof PATHS;

/** Whichever is in front has its address after the #, so that a reload and the browser's way back find it again. */
export function show(screen: Screen): void {
    location.hash = `#${PATHS[screen]}`;
}

const isInFront = (screen: Screen): boolean => (location.hash === `#${PATHS.plans}` ? 'plans' : 'desk') === screen;

/** Keys act on the screen that is in front; those that a window of its own hands on act on the desk, whatever is. */
export const isFor = (screen: Screen, event: KeyboardEvent): boolean => (event.isTrusted ? isInFront(screen) : screen === 'desk');
