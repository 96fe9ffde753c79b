import clsx from 'clsx';

interface Props {
    /** what may still be lost before a limit of the day acts, exact */
    room: string;
    limit: string;
    /** what would be lost of it, exact */
    risk: string;
    /** it is not so: what is dragged or drafted counts as done */
    isWhatIf?: boolean;
    className?: string;
}

const percent = (part: number, whole: number): string => `${Math.max(0, Math.min(100, (100 * part) / whole))}%`;

/** What may still be lost today, and laid over it what is at risk: the figures beside it say the same. */
export function RoomBar({ room, limit, risk, isWhatIf = false, className }: Props) {
    const [left, all, lost] = [Number(room), Number(limit), Number(risk)];
    return (
        <span
            className={clsx('relative block h-6 border bg-paper', isWhatIf ? 'border-ink border-dashed' : 'border-rule', className)}
            aria-hidden="true"
            data-part="room-bar"
            data-what-if={isWhatIf}
        >
            <i className="absolute inset-y-0 left-0 bg-soft/40" style={{ width: percent(left, all) }} />
            <i
                className={clsx('absolute inset-y-0', lost >= left ? 'bg-loss' : 'bg-loss/70')}
                style={{ left: percent(left - lost, all), width: percent(Math.min(lost, left), all) }}
            />
        </span>
    );
}
