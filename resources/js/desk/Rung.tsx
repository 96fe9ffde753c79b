import clsx from 'clsx';
import { memo } from 'react';
import type { Order } from '@/api/client';

interface Props {
    tick: number;
    price: string;
    lots: number;
    side: 'bid' | 'ask' | null;
    pnl: string | null;
    gains: boolean;
    lastSize: number | null;
    isAverage: boolean;
    isTouch: boolean;
    buys: string;
    sells: string;
    /** short words of the ghost, where the pointer is on this rung */
    ghost: { side: Order['side']; text: string; refused: boolean } | null;
    onCancel: (id: number) => void;
}

export interface ChipData {
    id: number;
    lots: number;
    role: Order['role'];
    words: string;
    steering: Order['steering'];
    pending: boolean;
}

/** Chips come as one string, so that a rung is drawn again only when something on it has changed. */
const chips = (text: string): ChipData[] => (text === '' ? [] : JSON.parse(text));

function Chip({ chip, onCancel }: { chip: ChipData; onCancel: (id: number) => void }) {
    return (
        <span
            className={clsx('chip', chip.role, chip.pending && 'pending')}
            data-order={chip.id}
            data-role={chip.role}
            onPointerDown={(event) => event.stopPropagation()}
        >
            <b>{chip.lots}</b> {chip.words}
            {chip.steering === 'hand' && ' · by hand'}
            <button
                type="button"
                tabIndex={-1}
                aria-label={`Cancel order ${chip.id}`}
                onMouseDown={(event) => event.preventDefault()}
                onClick={() => onCancel(chip.id)}
            >
                ×
            </button>
        </span>
    );
}

export const Rung = memo(function Rung(props: Props) {
    const { tick, price, lots, side, pnl, gains, lastSize, isAverage, isTouch, ghost, onCancel } = props;
    const lane = (of: Order['side'], text: string) => (
        <div className={clsx('lane', of)} data-lane={of}>
            {chips(text).map((chip) => (
                <Chip key={chip.id} chip={chip} onCancel={onCancel} />
            ))}
            {ghost?.side === of && <span className={clsx('chip ghost', ghost.refused && 'refused')}>{ghost.text}</span>}
        </div>
    );
    return (
        <div className={clsx('rung', isTouch && 'touch')} data-price={price} data-tick={tick}>
            <div className={clsx('depth', side)}>{lots > 0 ? lots : ''}</div>
            {lane('buy', props.buys)}
            <div className={clsx('price', isAverage && 'average')}>
                {price}
                {lastSize !== null && <span className="last">{lastSize}</span>}
            </div>
            {lane('sell', props.sells)}
            <div className={clsx('pnl', pnl !== null && (gains ? 'gain' : 'loss'))}>{pnl}</div>
        </div>
    );
});
