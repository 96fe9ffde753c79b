import { call } from '@/api/client';
import type { Distance } from './document';
import { useEditor } from './state';
import { sampleBody } from './useStudy';

/** The same distance in the unit of another, as PHP works it out for the sample order. */
export async function inUnit(distance: Distance, as: Distance): Promise<Distance> {
    const { plan, sample } = useEditor.getState();
    const { document: _document, ...order } = sampleBody(plan, sample);
    const answer = await call<{ distance: Distance }>('POST', 'exit-plans/distance', { ...order, distance: bare(distance), as: bare(as) });
    return answer.distance;
}

/** Without what a stop says beside its distance. */
const bare = ({ ticks, points, money, order_money, percent, account_percent, atr, bar, length }: Distance): Distance => ({
    ticks,
    points,
    money,
    order_money,
    percent,
    account_percent,
    atr,
    bar,
    length,
});
