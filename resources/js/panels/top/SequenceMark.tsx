import { useEffect, useRef } from 'react';
import { useDesk } from '@/stream/store';

/** The last sequence drawn stands on the screen after the frame that shows it: tests and tools wait for this. */
export function SequenceMark() {
    const place = useRef<HTMLSpanElement>(null);
    const sequence = useDesk((desk) => desk.sequence);
    useEffect(() => place.current?.parentElement?.setAttribute('data-sequence', String(sequence)), [sequence]);
    return <span ref={place} hidden />;
}
