import clsx from 'clsx';
import { useMemo } from 'react';
import type { Order } from '@/api/client';
import { countLots } from '@/model/prices';
import { CHIP, PURPOSE } from '@/panels/chips/chipLooks';
import { useDesk } from '@/stream/store';
import { WORDS } from './words';

interface Props {
    code: string;
    /** the highest tick that is shown, and the lowest */
    top: number;
    bottom: number;
    /** where the market is, in ticks */
    market: number | null;
    /** shows the rungs around a tick */
    show: (tick: number) => void;
}

const SIDES = ['buy', 'sell'] as const;

/** Own orders that the rungs do not reach stand at the edge of their lane, the nearest first, with how far they are from the market. */
export function EdgeOrders({ code, top, bottom, market, show }: Props) {
    const orders = useDesk((desk) => desk.orders);
    const beyond = useMemo(() => {
        const own = [...orders.values()].filter((order) => order.contract === code && order.level !== null && order.kind !== 'market');
        return {
            up: own.filter((order) => (order.level ?? 0) > top).sort((a, b) => (a.level ?? 0) - (b.level ?? 0)),
            down: own.filter((order) => (order.level ?? 0) < bottom).sort((a, b) => (b.level ?? 0) - (a.level ?? 0)),
        };
    }, [orders, code, top, bottom]);
    return (['up', 'down'] as const).map((way) =>
        beyond[way].length === 0 ? null : (
            <div
                key={way}
                className={clsx('edge pointer-events-none absolute inset-x-0', way === 'up' ? 'top-0' : 'bottom-0')}
                data-edge={way}
            >
                {SIDES.map((side) => (
                    <Nearest key={side} orders={beyond[way].filter((order) => order.side === side)} way={way} market={market} show={show} />
                ))}
            </div>
        ),
    );
}

function Nearest({
    orders,
    way,
    market,
    show,
}: {
    orders: Order[];
    way: 'up' | 'down';
    market: number | null;
    show: (tick: number) => void;
}) {
    const [order, ...others] = orders;
    if (!order || order.level === null) return <span />;
    const tick = order.level;
    const ticks = market === null ? '' : ` · ${Math.abs(tick - market)} ${way}`;
    return (
        <span className={clsx('flex', order.side === 'buy' ? 'col-start-2 justify-end' : 'col-start-4')}>
            <button
                type="button"
                tabIndex={-1}
                className={clsx(CHIP, PURPOSE[order.role], 'pointer-events-auto block! max-w-full truncate border-dashed')}
                data-part="edge-chip"
                title={WORDS.showIt(countLots(order.leaves), order.words, ticks)}
                onPointerDown={(event) => event.stopPropagation()}
                onClick={() => show(tick)}
            >
                <b>{order.leaves}</b> {order.words.split(' · ')[0]}
                {ticks}
                {others.length > 0 && ` · +${others.length}`}
            </button>
        </span>
    );
}
