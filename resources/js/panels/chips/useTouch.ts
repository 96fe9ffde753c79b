import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { useTouchModifiers } from '@/model/useModifiers';
import type { Spot } from '@/model/useSpot';
import { onPointerGone } from '@/ui/pointerGone';

/** A finger that rests for so long asks what else a press could be, ms. */
const REST_MS = 500;
/** Without another touch the picture goes on with the market after so long, ms. */
const FORGET_MS = 8000;

/** What was chosen and not used is not meant for a press of much later. */
const chooseAnew = (): void => useTouchModifiers.setState({ modifiers: null });

interface Acts {
    /** another contract begins anew */
    code: string;
    spot: Spot | null;
    /** shows what a press there would send, and keeps the prices still below it */
    point: (at: Spot) => void;
    /** nothing is pointed at any more */
    leave: () => void;
    /** what was pressed is not to be done where it is let go */
    forget: () => void;
}

/**
 * A finger has no hover: its first touch of a price points, so that what would be sent is said; the next touch there is the
 * press. One that rests opens what the keys give to a pointer.
 */
export function useTouch({ code, spot, point, leave, forget }: Acts) {
    const [asks, setAsks] = useState(false);
    const resting = useRef(0);
    const idle = useRef(0);
    // biome-ignore lint/correctness/useExhaustiveDependencies: what was chosen in one contract is not meant for another
    useEffect(
        () => () => {
            window.clearTimeout(resting.current);
            setAsks(false);
            chooseAnew();
        },
        [code],
    );
    return {
        asks,
        answered: () => setAsks(false),
        /** Whether the touch only pointed. */
        down: (event: PointerEvent<HTMLElement>, at: Spot): boolean => {
            const stop = () => window.clearTimeout(resting.current);
            stop();
            resting.current = window.setTimeout(() => {
                forget();
                setAsks(true);
            }, REST_MS);
            onPointerGone(event, stop, stop);
            window.clearTimeout(idle.current);
            idle.current = window.setTimeout(() => {
                setAsks(false);
                chooseAnew();
                leave();
            }, FORGET_MS);
            if (spot?.tick === at.tick && spot.side === at.side) return false;
            point(at);
            return true;
        },
    };
}
