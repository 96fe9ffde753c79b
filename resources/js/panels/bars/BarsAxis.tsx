import { scaleLinear } from 'd3-scale';
import type { Contract } from '@/api/client';
import { writePrice } from '@/model/prices';
import { type Field, yOf } from './drawBars';
import { LANE } from './measures';
import { WORDS } from './words';

/** Pixels between two prices that are written at the axis, at least. */
const STEP_PX = 28;
/** A price gives way to what stands so near to it. */
const NEAR_PX = 14;

interface Props {
    contract: Contract;
    field: Field;
    /** of the last trade, of the open position and under the pointer, in ticks */
    last: number | null;
    average: number | null;
    at: number | null;
}

/** The prices between the two lanes. */
export function BarsAxis({ contract, field, last, average, at }: Props) {
    const pixels = field.height / (field.high - field.low);
    const isIn = (tick: number) => tick >= field.low && tick <= field.high;
    const prices = scaleLinear([field.low, field.high], [0, 1])
        .ticks(Math.max(1, field.height / STEP_PX))
        .filter(Number.isInteger)
        .filter((tick) => [last, average, at].every((other) => other === null || Math.abs(other - tick) * pixels > NEAR_PX));
    return (
        <div className="bars-axis" data-part="bars-axis" style={{ left: field.width + LANE }}>
            {prices.map((tick) => (
                <span key={tick} style={{ top: yOf(field, tick) }}>
                    {writePrice(contract, tick)}
                </span>
            ))}
            {last !== null && isIn(last) && (
                <b className="last" data-part="bars-last" style={{ top: yOf(field, last) }}>
                    {writePrice(contract, last)}
                </b>
            )}
            {average !== null && isIn(average) && (
                <b className="average" data-average style={{ top: yOf(field, average) }} title={WORDS.dragToSetExit}>
                    {writePrice(contract, average)}
                </b>
            )}
            {at !== null && (
                <b className="here" style={{ top: yOf(field, at) }}>
                    {writePrice(contract, at)}
                </b>
            )}
        </div>
    );
}
