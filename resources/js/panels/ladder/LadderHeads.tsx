import { useHistoryView } from '@/model/historyView';
import { usePnlShown } from '@/model/pnlShown';
import type { DepthNow } from '@/stream/store';
import { Select } from '@/ui/Select';
import { ZOOMS } from './ladderView';
import { WORDS } from './words';

const PNL_HEADS = [
    ['money', 'P/L'],
    ['ticks', 'Ticks'],
    ['percent', '% of margin'],
] as const;

/** Words that yield where there is little room. */
const ROOMY = 'not-italic @max-[560px]/slot:hidden';

interface Props {
    depth: DepthNow | undefined;
    /** ticks that a rung stands for */
    zoom: number;
    setZoom: (ticks: number) => void;
    /** what the P/L counts from, in words; null while flat */
    average: string | null;
    /** it is that of a draft */
    isOfDraft: boolean;
}

/** What stands in each column of the rungs. */
export function LadderHeads({ depth, zoom, setZoom, average, isOfDraft }: Props) {
    const within = useHistoryView((state) => state.within);
    const unit = usePnlShown((shown) => shown.unit);
    const [, bids = 0, asks = 0, imbalance = 0] = depth?.sums.find(([ticks]) => ticks === within) ?? [];
    return (
        <div className="rung-heads" data-part="rung-heads">
            <span className="overflow-hidden pr-8 text-right">
                Resting<i className={ROOMY}> · orders</i>
            </span>
            <span>
                Buy
                <span className="ml-10">
                    <i className={ROOMY}>Bids </i>
                    <Sum lots={bids} of="bids" within={within} />
                </span>
            </span>
            <span>
                <Select
                    look="plain"
                    className="cursor-pointer text-ink"
                    aria-label="Ticks a rung"
                    value={zoom}
                    onChange={(event) => setZoom(+event.target.value)}
                >
                    {ZOOMS.map((ticks) => (
                        <option key={ticks} value={ticks}>
                            Price · {ticks} {ticks === 1 ? 'tick' : 'ticks'}
                        </option>
                    ))}
                </Select>
            </span>
            <span>
                Sell
                <span className="ml-10">
                    <i className={ROOMY}>Asks </i>
                    <Sum lots={asks} of="asks" within={within} />{' '}
                    <em className={`${ROOMY} inline-block min-w-42`} title={WORDS.imbalance(within)} data-field="imbalance">
                        {depth && `${imbalance > 0 ? '+' : ''}${imbalance} %`}
                    </em>
                </span>
            </span>
            <span className="pr-8 text-right @max-[430px]/slot:hidden">
                <Select
                    look="plain"
                    className="field-sizing-content max-w-full cursor-pointer appearance-none text-right"
                    aria-label={WORDS.lastColumn}
                    data-field="pnl-unit"
                    value={unit}
                    onChange={(event) => usePnlShown.setState({ unit: event.target.value as typeof unit })}
                >
                    {PNL_HEADS.map(([of, words]) => (
                        <option key={of} value={of}>
                            {words}
                            {of === 'percent' ? '' : average !== null ? ` from ${average}` : isOfDraft ? ' of the draft' : ' · volume'}
                        </option>
                    ))}
                </Select>
            </span>
        </div>
    );
}

/** Lots that rest near the market on one side. */
function Sum({ lots, of, within }: { lots: number; of: string; within: number }) {
    return (
        <b className="font-normal text-ink tabular-nums" title={WORDS.sumWithin(of, within)} data-field={of}>
            {lots}
        </b>
    );
}
