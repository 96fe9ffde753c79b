import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';

/** Whether a list to the side is open: on another screen it is not. */
export function useSide(): [open: boolean, setOpen: (open: boolean) => void] {
    const { pathname } = useLocation();
    const [open, setOpen] = useState(false);
    // biome-ignore lint/correctness/useExhaustiveDependencies: it is closed by whatever changes the screen
    useEffect(() => setOpen(false), [pathname]);
    return [open, setOpen];
}
