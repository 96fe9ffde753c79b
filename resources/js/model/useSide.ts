import { useEffect, useState } from 'react';
import { useScreen } from './screen';

/** Whether a list to the side is open: on another screen it is not. */
export function useSide(): [open: boolean, setOpen: (open: boolean) => void] {
    const screen = useScreen((state) => state.screen);
    const [open, setOpen] = useState(false);
    // biome-ignore lint/correctness/useExhaustiveDependencies: it is closed by whatever changes the screen
    useEffect(() => setOpen(false), [screen]);
    return [open, setOpen];
}
