import clsx from 'clsx';
import { memo } from 'react';
import type { Order } from '@/api/client';
import { Chip, type ChipData, type ChipHandlers } from './Chip';

interface Props extends ChipHandlers {
    tick: number;
    price: string;
    lots: number;
    side: 'bid' | 'ask' | null;
    pnl: string | null;
    gains: boolean;
    lastSize: number | null;
    isAverage: boolean;
    isTouch: boolean;
    /** chips of each lane as JSON, so that a rung is drawn again only when something on it has changed */
    buys: string;
    sells: string;
    /** short words of what a press would do here, where the pointer is on this rung */
    ghost: { side: Order['side']; text: string; refused: boolean } | null;
}

const chips = (text: string): ChipData[] => (text === '' ? [] : JSON.parse(text));

export const Rung = memo(function Rung(props: Props) {
    const { tick, price, lots, side, pnl, gains, lastSize, isAverage, isTouch, ghost, onGrab, onCancel } = props;
    const lane = (of: Order['side'], text: string) => (
        <div className={clsx('lane', of)} data-lane={of}>
            {chips(text).map((chip) => (
                <Chip key={`${chip.role} ${chip.id}`} chip={chip} onGrab={onGrab} onCancel={onCancel} />
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
