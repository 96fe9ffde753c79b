import clsx from 'clsx';
import { type CSSProperties, memo } from 'react';
import type { Order } from '@/api/client';
import { Chip, type ChipData, type ChipHandlers } from '@/panels/chips/Chip';
import { Note } from '@/panels/chips/Note';
import type { RungNote } from '@/panels/chips/rungNotes';
import type { RungData } from './rungsFrom';
import { WORDS } from './words';

interface Props extends ChipHandlers, RungData {
    price: string;
    pnl: string | null;
    gains: boolean;
    isAverage: boolean;
    isCursor: boolean;
    /** as JSON, like the chips: a rung is drawn again only when something on it has changed */
    notes: string;
    /** the lane whose chips are spread out */
    fanned: Order['side'] | null;
}

const read = <T,>(text: string): T[] => (text === '' ? [] : JSON.parse(text));

export const Rung = memo(function Rung(props: Props) {
    const {
        tick,
        price,
        lots,
        orders,
        change,
        isUnusual,
        bought,
        sold,
        day,
        isBeyond,
        side,
        pnl,
        gains,
        lastSize,
        isAverage,
        isTouch,
        isCursor,
        fanned,
        onGrab,
        onCancel,
    } = props;
    const notes = read<RungNote>(props.notes);
    const lane = (of: Order['side'], text: string) => {
        const chips = read<ChipData>(text);
        // One chip is whole, the others show their lots until the rung is spread out: half of the lane stays free.
        const whole = Math.max(
            0,
            chips.findIndex((chip) => chip.mark === 'chosen'),
        );
        return (
            <div className="lane" role="gridcell" data-lane={of} data-fanned={fanned === of || undefined}>
                {chips.map((chip, at) => (
                    <Chip
                        key={`${chip.role} ${chip.id}`}
                        chip={chip}
                        narrow={fanned !== of && at !== whole}
                        onGrab={onGrab}
                        onCancel={onCancel}
                    />
                ))}
                {notes.map((note) => note.side === of && <Note key={note.kind} kind={note.kind} text={note.text} />)}
            </div>
        );
    };
    return (
        <div
            className="rung"
            role="row"
            data-part="rung"
            data-price={price}
            data-tick={tick}
            data-touch={isTouch || undefined}
            data-cursor={isCursor || undefined}
            data-beyond={isBeyond || undefined}
        >
            <div className="depth" role="gridcell" data-part="depth" data-side={side ?? undefined} data-unusual={isUnusual || undefined}>
                {change === 0 ? (
                    <small className="change" />
                ) : (
                    <small className="change" title={WORDS.change(change)}>
                        {change > 0 ? '+' : '−'}
                        <i>{Math.abs(change)}</i>
                    </small>
                )}
                <span>{lots > 0 ? lots : ''}</span>
                <small className="orders">{orders > 0 ? orders : ''}</small>
            </div>
            {lane('buy', props.buys)}
            <div
                className="price"
                role="gridcell"
                data-part="price"
                data-average={isAverage || undefined}
                title={isAverage ? WORDS.dragToSetExit : undefined}
            >
                {bought + sold > 0 && (
                    <small
                        className="just"
                        data-part="just"
                        data-bought={bought >= sold || undefined}
                        title={WORDS.lastTenSeconds(bought, sold)}
                        style={{ '--bought': `${Math.round((100 * bought) / (bought + sold))}%` } as CSSProperties}
                    >
                        {Math.max(bought, sold)}
                    </small>
                )}
                {price}
                {lastSize !== null && (
                    <span className="last-size" data-part="last">
                        {lastSize}
                    </span>
                )}
            </div>
            {lane('sell', props.sells)}
            <div className={clsx('pnl', pnl !== null && (gains ? 'text-gain' : 'text-loss'))} role="gridcell" data-part="pnl">
                <small title={day || undefined}>{day}</small>
                {pnl}
            </div>
        </div>
    );
});
