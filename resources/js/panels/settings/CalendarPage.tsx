import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { change } from '@/api/change';
import { type Calendar, call } from '@/api/client';
import { queries } from '@/api/queries';
import { useChoices } from '@/model/choices';
import { Button } from '@/ui/Button';
import { Fault } from '@/ui/Fault';
import { FileRow } from '@/ui/FileRow';
import { NumberField } from '@/ui/NumberField';
import { Page } from './Page';
import { WORDS } from './words';

const KEY = 'calendar';

/** A practice session that ends soon is so long, in minutes, where nothing else is said. */
const SHORT = 20;

/** On which days the venue is shut or closes early, imported as a document; and a session made short, to practise its end. */
export function CalendarPage() {
    const account = useChoices((choices) => choices.account?.id);
    const code = useChoices((choices) => choices.code);
    const [minutes, setMinutes] = useState(SHORT);
    const [fault, setFault] = useState('');
    const { data, error } = useQuery({
        queryKey: [KEY, account],
        queryFn: () => call<Calendar>('GET', `calendar?account=${account}`),
        enabled: account !== undefined,
    });
    const send = (method: 'POST' | 'PUT', path: string, body: object): Promise<string> =>
        change(KEY, async () => {
            await call(method, `${path}?account=${account}`, body);
            await queries.invalidateQueries({ queryKey: [KEY] });
        });
    const shorten = (to: number) => void send('POST', `practice/${code}`, { closes_in: to }).then(setFault);
    if (error) return <Fault words={error.message} />;
    if (!data) return null;
    const { calendar, contracts } = data;
    return (
        <Page name="calendar">
            <div className="flex items-center gap-8">
                <b>{calendar.name ?? WORDS.calendar}</b>
                <FileRow
                    what="calendar"
                    name="calendar"
                    document={calendar}
                    take={(document) => send('PUT', 'calendar', document as object)}
                />
            </div>
            <p className="text-small text-soft">{WORDS.calendarMeans}</p>
            {calendar.days.length === 0 ? (
                <p>{WORDS.noSpecialDays}</p>
            ) : (
                <table className="text-left">
                    <thead className="text-small text-soft">
                        <tr>
                            <th className="font-normal">Date</th>
                            <th className="font-normal">Day</th>
                            <th className="font-normal">Closes</th>
                            <th className="font-normal">Contracts</th>
                        </tr>
                    </thead>
                    <tbody>
                        {calendar.days.map((day) => (
                            <tr key={`${day.date} ${day.contracts}`} className="border-t border-shade" data-date={day.date}>
                                <td className="pr-14 font-mono">{day.date}</td>
                                <td className="pr-14">{day.name}</td>
                                <td className="pr-14 font-mono">{day.close ?? 'shut'}</td>
                                <td>{day.contracts?.join(', ') ?? 'all'}</td>
                            </tr>
                        ))}
                    </tbody>
                </table>
            )}
            <div className="flex items-center gap-8 border-t border-rule pt-8">
                <NumberField label={WORDS.closesIn(code)} value={minutes} least={1} most={600} unit="minutes" set={setMinutes} />
                <Button tone="small" data-name="shorten" onClick={() => shorten(minutes)}>
                    {WORDS.shorten}
                </Button>
                <Button tone="small" data-name="lengthen" onClick={() => shorten(0)}>
                    {WORDS.lengthen}
                </Button>
            </div>
            <Fault words={fault} name="calendar-fault" />
            <ul className="text-small" data-part="hours">
                {contracts.map((of) => (
                    <li key={of.contract}>
                        <span className="font-mono">{of.contract}</span> {of.words} <span className="text-soft">({of.zone})</span>
                    </li>
                ))}
            </ul>
        </Page>
    );
}
