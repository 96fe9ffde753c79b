import clsx from 'clsx';
import type { OpenRisk } from '@/api/client';
import { chooseContract } from '@/model/choices';
import { writeExact } from '@/model/prices';
import { contractOf } from '@/model/writing';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Select } from '@/ui/Select';
import { RoomBar } from './RoomBar';
import { type GapOver, useGap, useOpenRisk } from './useOpenRisk';
import { WORDS } from './words';

const HEADS = ['Contract', 'Lots', 'Stop', 'From here', 'From entry', 'Would fill at', 'Slippage', 'Gap adds'];
const CELL = 'px-10 text-right tabular-nums';

/**
 * What is lost if the stops fill: at their triggers, in the depth that rests now, and after a gap through them. While a stop is
 * dragged, and with drafts, all of it as it would be.
 */
export function RiskPanel() {
    const { risk, isWhatIf, fault } = useOpenRisk(true);
    // Old figures are no risk: where they do not come, that is said in their place.
    if (fault !== '') return <p className="p-16 text-soft">{fault}</p>;
    if (!risk) return null;
    return (
        <div
            className={clsx('flex h-full overflow-y-auto bg-raised', isWhatIf && 'outline-2 -outline-offset-2 outline-ink outline-dashed')}
            data-part="risk-panel"
            data-what-if={isWhatIf}
        >
            {risk.contracts.length === 0 ? <p className="flex-1 p-16 text-soft">{WORDS.nothing}</p> : <Stops risk={risk} />}
            <Totals risk={risk} isWhatIf={isWhatIf} />
        </div>
    );
}

function Stops({ risk }: { risk: OpenRisk }) {
    return (
        <div className="min-w-0 flex-1 overflow-x-auto">
            <table className="w-full font-mono text-small leading-22">
                <thead className="font-text text-tiny text-soft">
                    <tr>
                        {HEADS.map((head, at) => (
                            <th key={head} className={at === 0 ? 'px-14 text-left font-semibold' : 'px-10 text-right font-semibold'}>
                                {head}
                            </th>
                        ))}
                    </tr>
                </thead>
                <tbody>
                    {risk.contracts.map((of) => (
                        <Contract key={of.contract} of={of} />
                    ))}
                </tbody>
            </table>
        </div>
    );
}

function whose({ entry, portion, order }: OpenRisk['contracts'][number]['stops'][number]): string {
    if (entry !== null) return WORDS.part(entry, portion ?? '');
    return order === null ? WORDS.ifSent : WORDS.byHand(order);
}

function Contract({ of }: { of: OpenRisk['contracts'][number] }) {
    const digits = contractOf(of.contract)?.minor_unit ?? 2;
    return (
        <>
            {of.stops.map((stop) => (
                <tr
                    key={`${stop.entry} ${stop.portion} ${stop.order} ${stop.stop} ${stop.lots}`}
                    className="border-t border-shade"
                    data-stop={stop.entry === null ? `order-${stop.order}` : `${stop.entry}-${stop.portion}`}
                >
                    <td className="px-14">
                        <Button tone="cell" onClick={() => chooseContract(of.contract)}>
                            {of.contract}
                        </Button>{' '}
                        <span className="text-soft">{whose(stop)}</span>
                    </td>
                    <td className={CELL}>{stop.lots}</td>
                    <td className={CELL}>{stop.stop_words}</td>
                    <td className={CELL}>{writeExact(stop.from_here, digits, false)}</td>
                    <td className={CELL}>{writeExact(stop.from_entry, digits, false)}</td>
                    <td className={CELL} title={stop.missing > 0 ? WORDS.thin(stop.missing) : undefined}>
                        {stop.in_depth_words}
                        {stop.missing > 0 && ' !'}
                    </td>
                    <td className={CELL}>{writeExact(stop.slippage, digits, false)}</td>
                    <td className={CELL} title={WORDS.gapOf(of.gap_ticks)}>
                        {writeExact(stop.gap, digits, false)} {of.currency}
                    </td>
                </tr>
            ))}
            {of.unprotected > 0 && (
                <tr className="border-t border-shade" data-part="risk-unprotected">
                    <td colSpan={HEADS.length} className="bg-amber px-14 font-text font-bold text-on-amber">
                        {WORDS.unprotected(of.unprotected, of.contract)}
                    </td>
                </tr>
            )}
        </>
    );
}

const GAPS: [over: GapOver, words: string][] = [
    ['ticks', 'ticks'],
    ['hour', WORDS.ofTheHour],
    ['day', WORDS.ofTheDay],
];

function GapField() {
    const { ticks, over } = useGap();
    return (
        <>
            {over === 'ticks' ? (
                <NumberField
                    label={WORDS.afterGap}
                    value={ticks}
                    least={0}
                    most={100_000}
                    unit=""
                    set={(typed) => useGap.setState({ ticks: typed })}
                />
            ) : (
                WORDS.afterJump
            )}{' '}
            <Select
                className="field-sizing-content py-0! text-small"
                aria-label={WORDS.howFar}
                data-name="gap-over"
                value={over}
                onChange={(event) => useGap.setState({ over: event.target.value as GapOver })}
            >
                {GAPS.map(([id, words]) => (
                    <option key={id} value={id}>
                        {words}
                    </option>
                ))}
            </Select>
        </>
    );
}

function Totals({ risk, isWhatIf }: { risk: OpenRisk; isWhatIf: boolean }) {
    const money = (amount: string) => `${writeExact(amount, 2, false)} ${risk.currency}`;
    const { totals } = risk;
    return (
        <dl className="grid w-400 flex-none grid-cols-[1fr_auto] content-start gap-x-10 border-l border-rule px-14 py-2 text-small leading-16 [&>dd]:text-right [&>dd]:font-mono">
            {risk.unprotected > 0 && (
                <dd className="col-span-2 bg-amber px-6 text-left! font-text! text-on-amber">{WORDS.notCounted(risk.unprotected)}</dd>
            )}
            {isWhatIf && (
                <dd className="col-span-2 text-left! font-text! font-bold" data-field="what-if">
                    {WORDS.whatIf}
                </dd>
            )}
            <dt>{WORDS.ifAllFill}</dt>
            <dd data-field="risk-here">{money(totals.from_here)}</dd>
            <dt className="text-soft">{WORDS.inDepth}</dt>
            <dd data-field="risk-slippage">+ {money(totals.slippage)}</dd>
            <dt className="text-soft">
                <GapField />
            </dt>
            <dd data-field="risk-gap">+ {money(totals.gap)}</dd>
            <dt className="font-bold">{WORDS.altogether}</dt>
            <dd className="font-bold" data-field="risk-all">
                {money(totals.all)}
            </dd>
            <dd className="col-span-2 font-text!" data-field="risk-shares">
                {WORDS.shares(risk.percent_of_balance ?? '—', risk.percent_of_room ?? '—', risk.r)}
            </dd>
            <dd className="col-span-2">
                <RoomBar room={risk.loss_room} limit={risk.loss_limit} risk={totals.all} />
            </dd>
            {risk.over && <dd className="col-span-2 bg-amber px-6 font-text! font-bold text-on-amber">{WORDS.over}</dd>}
            <dt className="text-soft">{WORDS.lockedIn}</dt>
            <dd>{money(totals.locked_in)}</dd>
        </dl>
    );
}
