import { Popover } from 'radix-ui';
import { forgetOutsideFills, importFills, useOutsideFills } from '@/model/fillMarks';
import { SPANS, scrollBack, setHistory, spanWords, useHistoryView, zoomTime } from '@/model/historyView';
import { addLadder, useLadders } from '@/model/ladders';
import { useDesk } from '@/stream/store';
import { FileButton } from '@/ui/FileButton';

/** Ticks from the best price for which the engine tells sums. */
const WITHIN = [3, 5, 10, 20];

/** Above the depth history: how much time it shows, where its right edge lies, and how its ink is measured. */
export function HistoryHead({ code }: { code: string }) {
    const { span, back, full, least, within, fills } = useHistoryView();
    const alone = useLadders((state) => state.list.length === 1);
    const follows = useDesk((desk) => desk.depth[code]?.full ?? 0);
    return (
        <div className="history-head">
            <button type="button" aria-label="Less time" disabled={span === SPANS[0]} onClick={() => zoomTime(-1)}>
                −
            </button>
            <b data-field="span">{spanWords(span)}</b>
            <button type="button" aria-label="More time" disabled={span === SPANS[SPANS.length - 1]} onClick={() => zoomTime(1)}>
                +
            </button>
            {back > 0 && (
                <button type="button" className="back" data-action="now" onClick={() => scrollBack(0)}>
                    {spanWords(Math.round(back / 1000) * 1000)} back · to now
                </button>
            )}
            {alone && (
                <button type="button" data-action="add-ladder" title="One ladder more, beside this one" onClick={addLadder}>
                    + ladder
                </button>
            )}
            <Popover.Root>
                <Popover.Trigger className="scale" data-action="history-scale">
                    Depth scale {full ?? (follows || '—')}
                </Popover.Trigger>
                <Popover.Portal>
                    <Popover.Content className="popover" align="start" sideOffset={4}>
                        <p>
                            Ink in a row is the lots that rested there. <i className="stroke bought" /> bought,{' '}
                            <i className="stroke sold" /> sold; longer is more, or higher where much time is shown. Drag to look back, wheel
                            for more or less time.
                        </p>
                        <label>
                            <input
                                type="checkbox"
                                checked={full === null}
                                onChange={(event) => setHistory({ full: event.target.checked ? null : follows || 100 })}
                            />
                            The depth scale follows the market (99 of 100 prices hold less)
                        </label>
                        <Lots
                            label="Depth scale, lots"
                            value={full ?? follows}
                            least={1}
                            most={5000}
                            disabled={full === null}
                            set={(value) => setHistory({ full: value })}
                        />
                        <Lots
                            label="Leave out less than"
                            value={least}
                            least={0}
                            most={1000}
                            set={(value) => setHistory({ least: value })}
                        />
                        <label>
                            Fills{' '}
                            <select value={fills} onChange={(event) => setHistory({ fills: event.target.value as typeof fills })}>
                                <option value="all">all are marked</option>
                                <option value="plan">of stops and targets (rings)</option>
                                <option value="hand">sent by hand (dots)</option>
                                <option value="imported">of other programs (squares)</option>
                                <option value="none">none</option>
                            </select>
                        </label>
                        <OutsideFills />
                        <label>
                            Sums within{' '}
                            <select value={within} onChange={(event) => setHistory({ within: +event.target.value })}>
                                {WITHIN.map((ticks) => (
                                    <option key={ticks} value={ticks}>
                                        {ticks}
                                    </option>
                                ))}
                            </select>{' '}
                            ticks of the best price
                        </label>
                    </Popover.Content>
                </Popover.Portal>
            </Popover.Root>
        </div>
    );
}

/** Fills from another program come in as a file; they are marked, and count for nothing else. */
function OutsideFills() {
    const count = useOutsideFills((state) => state.fills.length);
    return (
        <div className="outside-fills">
            <FileButton
                label="Import fills"
                accept="text/csv,.csv"
                name="import-fills"
                title="CSV with time, contract, side, quantity, price and perhaps id"
                take={(file) => void importFills(file)}
            />
            {count === 0 && <span>CSV: time, contract, side, quantity, price</span>}
            {count > 0 && (
                <button type="button" className="order-button small" data-action="forget-fills" onClick={() => void forgetOutsideFills()}>
                    take these {count} away
                </button>
            )}
        </div>
    );
}

interface LotsProps {
    label: string;
    value: number;
    least: number;
    most: number;
    disabled?: boolean;
    set: (value: number) => void;
}

function Lots({ label, value, least, most, disabled, set }: LotsProps) {
    return (
        <label>
            {label}{' '}
            <input
                type="number"
                value={value}
                min={least}
                max={most}
                disabled={disabled}
                onChange={(event) => event.target.validity.valid && event.target.value !== '' && set(event.target.valueAsNumber)}
            />{' '}
            lots
        </label>
    );
}
