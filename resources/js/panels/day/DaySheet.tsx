import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { type AccountDay, call } from '@/api/client';
import { useChoices } from '@/model/choices';
import { useDaySheet } from '@/model/daySheet';
import { writeExact } from '@/model/prices';
import { useDesk } from '@/stream/store';
import { Figure } from '@/ui/Figure';
import { BUTTON } from '@/ui/looks';
import { Choice, OneOf } from '@/ui/OneOf';
import { Sheet } from '@/ui/Sheet';
import { DayCurve } from './DayCurve';
import { WORDS } from './words';

/** While it is looked at it goes on, ms. */
const AGAIN_MS = 2000;

const HEADS = ['Contract', 'Open', 'Lots traded', 'Realised', 'Open P/L', 'Fees', 'Net', 'Margin'];
const CELL = 'px-8 text-right font-mono tabular-nums';

const minute = (iso: string): string => iso.slice(0, 16).replace('T', ' ');
const second = (iso: string): string => iso.slice(11, 19);

/** The trading day of the account: its result, how it went, what it met, what is left over. */
export function DaySheet() {
    const { open } = useDaySheet();
    const account = useChoices((choices) => choices.account);
    const [which, look] = useState<'now' | 'before'>('now');
    const { data, error } = useQuery({
        queryKey: ['day', account?.id, which],
        queryFn: () => call<AccountDay>('GET', `accounts/${account?.id}/day?which=${which}`),
        enabled: open && account !== undefined && account !== null,
        refetchInterval: which === 'now' ? AGAIN_MS : false,
    });
    return (
        <Sheet open={open} close={() => useDaySheet.setState({ open: false })} title={WORDS.title(account?.name ?? '')} name="day">
            <OneOf label="Which day" className="mb-8 flex gap-4" value={which} set={(to) => look(to as 'now' | 'before')}>
                <Choice value="now" className={BUTTON.choice}>
                    Today
                </Choice>
                <Choice value="before" className={BUTTON.choice}>
                    {WORDS.theDayBefore}
                </Choice>
            </OneOf>
            {error && <p className="bg-amber px-8 py-4 text-on-amber">{error.message}</p>}
            {data && <Day day={data} places={account?.daily_loss_limit.split('.')[1]?.length ?? 2} />}
        </Sheet>
    );
}

function Day({ day, places }: { day: AccountDay; places: number }) {
    const write = (amount: string): string => writeExact(amount, places);
    const money = (amount: string) => (
        <Figure money={amount} className="font-mono font-normal">
            {write(amount)}
        </Figure>
    );
    const { trades } = day;
    const risk = useDesk((desk) => desk.risk);
    const plain = (amount: string): string => writeExact(amount, places, false);
    const net = day.net ?? trades.net;
    return (
        <div className="flex flex-col gap-10 text-usual">
            <p className="flex flex-wrap items-baseline gap-x-14">
                <Figure money={net} className="font-mono text-figure" data-field="day-net">
                    {write(net)} {day.currency}
                </Figure>
                {day.realised !== null && day.open !== null && day.fees !== null && (
                    <span>
                        realised {money(day.realised)} · open {money(day.open)} · fees <span className="font-mono">{plain(day.fees)}</span>
                    </span>
                )}
                <span className="text-soft">{WORDS.span(minute(day.began), minute(day.ends))}</span>
            </p>
            {!day.is_over && risk && (
                <p data-field="day-funds">{WORDS.funds(plain(risk.balance), plain(risk.margin_used), plain(risk.buying_power))}</p>
            )}
            <p data-field="day-trades">
                {WORDS.trades(trades.count, trades.won, trades.lost)}
                {trades.best !== null &&
                    trades.worst !== null &&
                    ` · ${WORDS.bestTrade(write(trades.best))} · ${WORDS.worstTrade(write(trades.worst))}`}
            </p>
            <DayCurve day={day} write={write} />
            <p className="flex gap-14 text-small text-soft">
                <span>
                    <i className="mr-4 inline-block w-18 border-t-2 border-ink align-middle" />
                    {WORDS.withOpen}
                </span>
                <span>
                    <i className="mr-4 inline-block w-18 border-t border-soft align-middle" />
                    {WORDS.closed}
                </span>
                {day.best && <span>{WORDS.stoodBest(write(day.best.money), second(day.best.at))}</span>}
                {day.worst && <span>{WORDS.stoodWorst(write(day.worst.money), second(day.worst.at))}</span>}
            </p>
            {day.by_contract.length > 0 && <ByContract day={day} write={write} places={places} />}
            {day.led_to_bar.length > 0 && (
                <Part title={WORDS.ledToBar} name="led-to-bar">
                    <Lines lines={day.led_to_bar} />
                </Part>
            )}
            <Part title={WORDS.limitsMet} name="limits-met">
                {day.met.length === 0 ? <p className="text-soft">{WORDS.noneMet}</p> : <Lines lines={day.met} />}
            </Part>
            <Part title={WORDS.leftOver} name="left-over">
                {day.left_over.length === 0 && <p className="text-soft">{WORDS.nothingLeft}</p>}
                <ul>
                    {day.left_over.map((left, at) => (
                        <li key={at}>
                            <b>{left.contract}</b> {left.words}: {left.why}
                        </li>
                    ))}
                </ul>
            </Part>
        </div>
    );
}

function Part({ title, name, children }: { title: string; name: string; children: ReactNode }) {
    return (
        <section data-part={name}>
            <h3 className="border-b border-rule text-small font-semibold text-soft">{title}</h3>
            {children}
        </section>
    );
}

function Lines({ lines }: { lines: AccountDay['met'] }) {
    return (
        <ol>
            {lines.map((line) => (
                <li key={line.sequence} data-sequence={line.sequence}>
                    <span className="font-mono text-soft">{second(line.time)}</span> {line.contract} {line.words}
                </li>
            ))}
        </ol>
    );
}

function ByContract({ day, write, places }: { day: AccountDay; write: (amount: string) => string; places: number }) {
    return (
        <Part title={WORDS.byContract} name="by-contract">
            <table className="w-full">
                <thead className="text-small text-soft">
                    <tr>
                        {HEADS.map((head, at) => (
                            <th key={head} className={at === 0 ? 'text-left font-normal' : 'px-8 text-right font-normal'}>
                                {head}
                            </th>
                        ))}
                    </tr>
                </thead>
                <tbody>
                    {day.by_contract.map((of) => (
                        <tr key={of.contract} className="border-t border-shade" data-contract={of.contract}>
                            <td className="font-mono font-semibold">{of.contract}</td>
                            <td className={CELL}>{of.quantity}</td>
                            <td className={CELL}>{of.lots}</td>
                            <td className={CELL}>{write(of.realised)}</td>
                            <td className={CELL}>{write(of.open)}</td>
                            <td className={CELL}>{writeExact(of.fees, places, false)}</td>
                            <td className={CELL}>{write(of.net)}</td>
                            <td className={CELL}>{writeExact(of.margin, places, false)}</td>
                        </tr>
                    ))}
                </tbody>
            </table>
        </Part>
    );
}
