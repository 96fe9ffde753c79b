/** Whose hand steers: the trader's. */
export function Hand() {
    return (
        <svg
            className="inline-block size-13 flex-none fill-none stroke-exit stroke-[1.4] align-[-2px] group-data-role/chip:stroke-current"
            data-part="hand"
            viewBox="0 0 16 16"
            aria-hidden="true"
        >
            <path d="M4.5 8V4.2a1 1 0 0 1 2 0V7V2.8a1 1 0 0 1 2 0V7V3.4a1 1 0 0 1 2 0V8V5.6a1 1 0 0 1 2 0V10c0 2.6-1.7 4.4-4.2 4.4c-2 0-3-.8-4-2.6L2.6 9.2c-.5-1 .7-1.7 1.3-.9z" />
        </svg>
    );
}
