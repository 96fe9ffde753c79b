import clsx from 'clsx';
import { forgetOutsideFills, importFills, useOutsideFills } from '@/model/fillMarks';
import { SPANS, scrollBack, setHistory, spanWords, useHistoryView, zoomTime } from '@/model/historyView';
import { addLadder, useLadders } from '@/model/ladders';
import { useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { FileButton } from '@/ui/FileButton';
import { NumberField } from '@/ui/NumberField';
import { Popover } from '@/ui/Popover';
import { Select } from '@/ui/Select';
import { Tool, Toolbar } from '@/ui/Toolbar';
import { WORDS } from './words';

const STROKE = 'inline-block h-4 w-14 border border-stroke align-middle';

/** Ticks from the best price for which the engine tells sums. */
const WITHIN = [3, 5, 10, 20];

/** Above the depth history: how much time it shows, where its right edge lies, and how its ink is measured. */
export function HistoryHead({ code }: { code: string }) {
    const { span, back, full, least, within, fills } = useHistoryView();
    const alone = useLadders((state) => state.list.length === 1);
    const follows = useDesk((desk) => desk.depth[code]?.full ?? 0);
    return (
        <Toolbar
            label={WORDS.tools(code)}
            className="flex items-center gap-4 overflow-hidden px-8 whitespace-nowrap @max-[640px]/slot:hidden"
            data-part="history-head"
        >
            <Tool aria-label="Less time" disabled={span === SPANS[0]} onClick={() => zoomTime(-1)}>
                −
            </Tool>
            <b className="min-w-44 text-center text-ink" data-field="span">
                {spanWords(span)}
            </b>
            <Tool aria-label="More time" disabled={span === SPANS[SPANS.length - 1]} onClick={() => zoomTime(1)}>
                +
            </Tool>
            {back > 0 && (
                <Tool className="bg-ink! text-raised" data-action="now" onClick={() => scrollBack(0)}>
                    {WORDS.backToNow(spanWords(Math.round(back / 1000) * 1000))}
                </Tool>
            )}
            {alone && (
                <Tool data-action="add-ladder" title={WORDS.oneLadderMore} onClick={addLadder}>
                    + ladder
                </Tool>
            )}
            <Popover
                align="start"
                className="w-330"
                trigger={
                    <Tool className="ml-auto" data-action="history-scale">
                        Depth scale {full ?? (follows || '—')}
                    </Tool>
                }
            >
                <p className="text-soft">
                    {WORDS.ink} <i className={clsx(STROKE, 'bg-stroke')} /> bought, <i className={STROKE} /> {WORDS.strokes}
                </p>
                <Checkbox
                    checked={full === null}
                    set={(checked) => setHistory({ full: checked ? null : follows || 100 })}
                    name="scale-follows"
                >
                    {WORDS.scaleFollows}
                </Checkbox>
                <NumberField
                    unit="lots"
                    label="Depth scale, lots"
                    value={full ?? follows}
                    least={1}
                    most={5000}
                    disabled={full === null}
                    set={(value) => setHistory({ full: value })}
                />
                <NumberField
                    unit="lots"
                    label="Leave out less than"
                    value={least}
                    least={0}
                    most={1000}
                    set={(value) => setHistory({ least: value })}
                />
                <label>
                    Fills{' '}
                    <Select value={fills} onChange={(event) => setHistory({ fills: event.target.value as typeof fills })}>
                        <option value="all">all are marked</option>
                        <option value="plan">{WORDS.ofExits}</option>
                        <option value="hand">sent by hand (dots)</option>
                        <option value="imported">of other programs (squares)</option>
                        <option value="none">none</option>
                    </Select>
                </label>
                <OutsideFills />
                <label>
                    Sums within{' '}
                    <Select value={within} onChange={(event) => setHistory({ within: +event.target.value })}>
                        {WITHIN.map((ticks) => (
                            <option key={ticks} value={ticks}>
                                {ticks}
                            </option>
                        ))}
                    </Select>{' '}
                    {WORDS.ticksOfBest}
                </label>
            </Popover>
        </Toolbar>
    );
}

/** Fills from another program come in as a file; they are marked, and count for nothing else. */
function OutsideFills() {
    const count = useOutsideFills((state) => state.fills.length);
    return (
        <div className="flex items-center gap-8 text-small whitespace-nowrap text-soft">
            <FileButton
                label="Import fills"
                accept="text/csv,.csv"
                name="import-fills"
                title={WORDS.importTitle}
                take={(file) => void importFills(file)}
            />
            {count === 0 && <span>{WORDS.importColumns}</span>}
            {count > 0 && (
                <Button tone="small" data-action="forget-fills" onClick={() => void forgetOutsideFills()}>
                    {WORDS.takeAway(count)}
                </Button>
            )}
        </div>
    );
}
