import clsx from 'clsx';

interface Props {
    /** what is left of the day's loss limit, exact */
    room: string;
    limit: string;
    /** what would be lost of it, exact */
    risk: string;
    className?: string;
}

const percent = (part: number, whole: number): string => `${Math.max(0, Math.min(100, (100 * part) / whole))}%`;

/** What is left of the day's loss limit, and laid over it what is at risk: the figures beside it say the same. */
export function RoomBar({ room, limit, risk, className }: Props) {
    const [left, all, lost] = [Number(room), Number(limit), Number(risk)];
    return (
        <span className={clsx('relative block h-6 border border-rule bg-paper', className)} aria-hidden="true" data-part="room-bar">
            <i className="absolute inset-y-0 left-0 bg-soft/40" style={{ width: percent(left, all) }} />
            <i
                className={clsx('absolute inset-y-0', lost >= left ? 'bg-loss' : 'bg-loss/70')}
                style={{ left: percent(left - lost, all), width: percent(Math.min(lost, left), all) }}
            />
        </span>
    );
}
