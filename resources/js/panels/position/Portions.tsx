import clsx from 'clsx';
import type { ReactNode } from 'react';
import type { Contract, Position } from '@/api/client';
import { closePart, giveBack, letRun } from '@/commands/actions';
import type { Ground } from '@/model/basis';
import { writeExact, writePrice } from '@/model/prices';
import { Button } from '@/ui/Button';
import { Figure } from '@/ui/Figure';
import { Hand } from '@/ui/Hand';
import { alike, type Line } from './alike';
import { ExitField } from './ExitField';
import { WORDS } from './words';

const HEAD = 'flex items-center justify-between gap-4 text-tiny text-soft';

interface PortionsProps {
    position: Position;
    contract: Contract;
    /** a plan that the buttons name: an entry alone that has it says it no second time */
    named: string | undefined;
    /** how it takes its place */
    className: string;
    children: ReactNode;
}

/** The open lots portion by portion: what protects them, who steers, and what can be done with each. */
export function Portions({ position, contract, named, className, children }: PortionsProps) {
    const several = position.entries.length > 1;
    const minor = contract.minor_unit;
    const ground = { account: position.account, contract: contract.code };
    return (
        <ul className={className} data-part="portions" aria-label="Portions of the position">
            {position.entries.map((entry, at) => (
                // An entry alone is its lines, which are cut between two of them where there is no room for all.
                <li key={entry.entry} className={several ? undefined : 'contents'}>
                    <p className={clsx('w-full', HEAD)} data-part="entry-head">
                        {(several || entry.covers === 'position' || entry.plan !== named) && (
                            <span className="truncate">
                                {entry.plan ?? WORDS.noPlan}
                                {entry.covers === 'position' && ` · ${WORDS.coversPosition}`}
                                {several && entry.average_words && ` · from ${entry.average_words}`}
                            </span>
                        )}
                        {several && (
                            <Result money={position.results.entries.find((one) => one.entry === entry.entry)?.open} minor={minor} />
                        )}
                        {at === 0 && !several && <span className="ml-auto flex flex-none gap-4">{children}</span>}
                        {several && (
                            <Button tone="link" data-name={`close-entry-${entry.entry}`} onClick={() => closePart(ground, entry.entry)}>
                                {WORDS.closeThese(entry.lots)}
                            </Button>
                        )}
                    </p>
                    {alike(entry.portions).map((line) => (
                        <PortionLine
                            key={line.key}
                            line={line}
                            entry={entry.entry}
                            contract={contract}
                            ground={ground}
                            position={position}
                        />
                    ))}
                </li>
            ))}
            {position.results.beside !== null && several && (
                <li className={HEAD} data-part="entry-head" data-field="beside" title={WORDS.whyAtAverage}>
                    <span>{WORDS.atAverage}</span>
                    <Result money={position.results.beside} minor={minor} />
                </li>
            )}
            {several && <li className="flex gap-4">{children}</li>}
        </ul>
    );
}

interface LineProps {
    line: Line;
    entry: number;
    contract: Contract;
    ground: Ground;
    position: Position;
}

function PortionLine({ line, entry, contract, ground, position }: LineProps) {
    const { stop, target, steering, back_words, left_behind } = line.first;
    const name = line.numbers.join('-');
    return (
        <div className="w-full">
            <div
                className="grid h-17 grid-cols-[1.25rem_4.75rem_1fr_auto_auto] items-center gap-x-6 font-mono text-tiny leading-17 whitespace-nowrap tabular-nums"
                data-part="portion-row"
                data-portion={line.numbers.join(' ')}
            >
                <b title={line.words}>{line.lots}</b>
                <ExitField
                    ground={ground}
                    exit="stop"
                    entry={entry}
                    line={line}
                    currency={contract.currency}
                    shown={
                        stop === null ? (position.unprotected > 0 ? WORDS.noStop : WORDS.byOrder) : WORDS.stopAt(writePrice(contract, stop))
                    }
                    alarm={(stop === null && position.bare > 0) || left_behind}
                />
                <ExitField
                    ground={ground}
                    exit="target"
                    entry={entry}
                    line={line}
                    currency={contract.currency}
                    shown={target === null ? 'no target' : `target ${writePrice(contract, target)}`}
                />
                {line.targets.length === 0 ? (
                    <span />
                ) : (
                    <Button
                        tone="link"
                        data-name={`run-${name}`}
                        title={WORDS.takeTargetOff(line.words)}
                        onClick={() => line.targets.forEach((order) => void letRun(ground, order))}
                    >
                        Let it run
                    </Button>
                )}
                <Button
                    tone="link"
                    data-name={`close-${name}`}
                    title={WORDS.closeOf(line.closes, line.words)}
                    onClick={() => closePart(ground, entry, line.numbers)}
                >
                    Close
                </Button>
            </div>
            {steering === 'hand' && (
                <p className="text-tiny leading-15 whitespace-nowrap text-soft" data-part="by-hand">
                    <Hand /> manual{back_words === null ? '' : `; ${back_words}`}
                    {line.stops.length > 0 && back_words !== null && (
                        <Button
                            tone="link"
                            data-name={`give-back-${name}`}
                            aria-label={WORDS.giveBack(line.words, back_words)}
                            onClick={() => line.stops.forEach((order) => void giveBack(ground, order))}
                        >
                            Return to plan
                        </Button>
                    )}
                </p>
            )}
        </div>
    );
}

/** What an entry would make or lose now, counted from its own fills. */
function Result({ money, minor }: { money: string | undefined; minor: number }) {
    return money === undefined ? null : <Figure money={money}>{writeExact(money, minor)}</Figure>;
}
