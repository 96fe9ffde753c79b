import { useEffect, useState } from 'react';

/** Counts up so many times a second at most: for lists that change with each trade, and that no eye reads so fast. */
export function useEvery(ms: number): number {
    const [count, setCount] = useState(0);
    useEffect(() => {
        const timer = window.setInterval(() => setCount((old) => old + 1), ms);
        return () => window.clearInterval(timer);
    }, [ms]);
    return count;
}
