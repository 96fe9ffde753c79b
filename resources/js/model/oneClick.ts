import { create } from 'zustand';
import { say } from '@/stream/store';
import { WORDS } from './words';

interface OneClick {
    on: boolean;
    usedAt: number;
}

/** Whether a click on a rung sends at once (on) or makes a draft (off). Off whenever the desk is opened. */
export const useOneClick = create<OneClick>(() => ({ on: false, usedAt: 0 }));

export function turnOneClick(on: boolean, why = ''): void {
    if (useOneClick.getState().on === on) return;
    useOneClick.setState({ on, usedAt: performance.now() });
    if (why !== '') say(WORDS.oneClickIsOff(why));
}

export function usedOneClick(): void {
    useOneClick.setState({ usedAt: performance.now() });
}
