import type { ReactNode } from 'react';
import type { Contract, Position } from '@/api/client';
import { still } from '@/ui/still';
import { closePart, giveBack, letRun } from './actions';
import { Hand } from './Hand';
import { writePrice } from './prices';

/** The open lots portion by portion: what protects them, who steers, and what can be done with each. */
export function Portions({ position, contract, children }: { position: Position; contract: Contract; children: ReactNode }) {
    const several = position.entries.length > 1;
    const ground = { account: position.account, contract: contract.code };
    return (
        <ul className="portions" aria-label="Portions of the position">
            {position.entries.map((entry, at) => (
                <li key={entry.entry}>
                    <p className="entry-head">
                        <span>
                            {entry.plan ?? 'no exit plan'}
                            {entry.covers === 'position' && ' · covers the position'}
                        </span>
                        {at === 0 && !several && <span className="plan-on">{children}</span>}
                        {several && (
                            <button
                                type="button"
                                className="plain"
                                data-name={`close-entry-${entry.entry}`}
                                onMouseDown={still}
                                onClick={() => closePart(ground, entry.entry)}
                            >
                                close these {entry.lots}
                            </button>
                        )}
                    </p>
                    {entry.portions.map((portion) => (
                        <div key={`${portion.portion}/${portion.group}`}>
                            <p className="portion-row" data-portion={portion.portion}>
                                <b>{portion.lots}</b>
                                <span className={portion.stop === null || portion.left_behind ? 'bare' : undefined}>
                                    {portion.stop === null ? 'no stop' : `stop ${writePrice(contract, portion.stop)}`}
                                </span>
                                <span>{portion.target === null ? 'runs' : `out ${writePrice(contract, portion.target)}`}</span>
                                {portion.target_order === null ? (
                                    <span />
                                ) : (
                                    <button
                                        type="button"
                                        className="plain"
                                        data-name={`run-${portion.portion}`}
                                        title={`Take the target of portion ${portion.portion} off: it runs under its stop`}
                                        onMouseDown={still}
                                        onClick={() => letRun(ground, portion.target_order as number)}
                                    >
                                        run
                                    </button>
                                )}
                                <button
                                    type="button"
                                    className="plain"
                                    data-name={`close-${portion.portion}`}
                                    title={`Close the ${portion.lots} of portion ${portion.portion} at the market`}
                                    onMouseDown={still}
                                    onClick={() => closePart(ground, entry.entry, portion.portion)}
                                >
                                    close
                                </button>
                            </p>
                            {portion.steering === 'hand' && (
                                <p className="by-hand">
                                    <Hand /> by hand{portion.back_words === null ? '' : `; ${portion.back_words}`}
                                    {portion.stop_order !== null && portion.back_words !== null && (
                                        <button
                                            type="button"
                                            className="plain"
                                            data-name={`give-back-${portion.portion}`}
                                            aria-label={`Give the stop of portion ${portion.portion} back; ${portion.back_words}`}
                                            onMouseDown={still}
                                            onClick={() => giveBack(ground, portion.stop_order as number)}
                                        >
                                            give back
                                        </button>
                                    )}
                                </p>
                            )}
                        </div>
                    ))}
                </li>
            ))}
            {several && <li className="plan-on">{children}</li>}
        </ul>
    );
}
