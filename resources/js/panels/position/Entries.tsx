import type { Contract, Position } from '@/api/client';
import { closePart } from '@/commands/actions';
import { writeExact, writePrice } from '@/model/prices';
import { Button } from '@/ui/Button';
import { Figure } from '@/ui/Figure';
import { ExitField } from './ExitField';
import { WORDS } from './words';

type Entry = Position['entries'][number];

/** What several entries come to, a line each: lots, plan, where they are stopped, what they make now, and the way out of each. */
export function Entries({ position, contract, className }: { position: Position; contract: Contract; className: string }) {
    return (
        <ul className={className} data-part="entries" aria-label={WORDS.entries}>
            {position.entries.map((entry) => (
                <EntryLine key={entry.entry} entry={entry} position={position} contract={contract} />
            ))}
        </ul>
    );
}

function EntryLine({ entry, position, contract }: { entry: Entry; position: Position; contract: Contract }) {
    const ground = { account: position.account, contract: contract.code };
    const stops = [...new Set(entry.portions.map((portion) => portion.stop))];
    const numbers = [...new Set(entry.portions.map((portion) => portion.portion))];
    const [stop] = stops;
    const result = position.results.entries.find((one) => one.entry === entry.entry)?.open;
    return (
        <li
            className="grid h-17 w-full grid-cols-[1.25rem_minmax(0,1fr)_5rem_auto_auto] items-center gap-x-5 font-mono text-tiny leading-17 whitespace-nowrap tabular-nums"
            data-part="entry-line"
        >
            <b>{entry.lots}</b>
            <span className="truncate font-text">{entry.covers === 'position' ? WORDS.coversPosition : (entry.plan ?? WORDS.noPlan)}</span>
            {stops.length > 1 || stop === undefined ? (
                <span>{WORDS.stops(stops.length)}</span>
            ) : (
                <ExitField
                    ground={ground}
                    exit="stop"
                    entry={entry.entry}
                    line={{ numbers, words: WORDS.portions(numbers) }}
                    currency={contract.currency}
                    shown={
                        stop === null ? (position.unprotected > 0 ? WORDS.noStop : WORDS.byOrder) : WORDS.stopAt(writePrice(contract, stop))
                    }
                    alarm={(stop === null && position.bare > 0) || entry.portions.some((portion) => portion.left_behind)}
                />
            )}
            {result === undefined ? <span /> : <Figure money={result}>{writeExact(result, contract.minor_unit)}</Figure>}
            <Button tone="link" data-name={`close-entry-${entry.entry}`} onClick={() => closePart(ground, entry.entry)}>
                {WORDS.closeThese(entry.lots)}
            </Button>
        </li>
    );
}
