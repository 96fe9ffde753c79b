import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import { type Account, type Contract, type Order, Problem } from '@/api/client';
import { ArrangeBar } from '@/dock/ArrangeBar';
import { DeskDock } from '@/dock/DeskDock';
import { useDock } from '@/dock/dock';
import { say, useDesk } from '@/stream/store';
import { cancel, cover, useCoverDoubt } from './actions';
import { HelpSheet } from './HelpSheet';
import { Hints } from './Hints';
import { KeysAsleep } from './KeysAsleep';
import { type LadderActs, useQuickKeys } from './keys';
import { countLots } from './prices';
import { SettingsSheet } from './SettingsSheet';
import { Ticket } from './Ticket';
import { TopBar } from './TopBar';
import { useOneClickGuard } from './useOneClickGuard';

/** Asked before a stop is taken off a position. */
interface Doubt {
    order: Order;
    words: string;
}

/** The last sequence drawn stands on the desk after the frame that shows it: tests and tools wait for this. */
function SequenceMark({ root }: { root: RefObject<HTMLDivElement | null> }) {
    const sequence = useDesk((desk) => desk.sequence);
    useEffect(() => root.current?.setAttribute('data-sequence', String(sequence)), [sequence, root]);
    return null;
}

export function Desk({ account, contract }: { account: Account; contract: Contract }) {
    const feed = useDesk((desk) => desk.feed);
    const shut = useDesk((desk) => (desk.hours[contract.code]?.open === false ? desk.hours[contract.code]?.words : undefined));
    const ladder = useRef<LadderActs>(null);
    const arranging = useDock((state) => state.arranging);
    const [doubt, setDoubt] = useState<Doubt | null>(null);
    const coverDoubt = useCoverDoubt((state) => state.doubt);
    const root = useRef<HTMLDivElement>(null);

    useOneClickGuard();
    useQuickKeys(ladder);

    const onCancel = useCallback(async (id: number) => {
        const order = useDesk.getState().orders.get(id);
        if (!order) return;
        if (order.tied) return setDoubt({ order, words: `Order ${id} is tied to order ${order.tied.order}.` });
        try {
            await cancel(order);
        } catch (error) {
            if (error instanceof Problem)
                setDoubt({ order, words: `Taking this stop off leaves ${countLots(Number(error.facts.unprotected))} unprotected.` });
        }
    }, []);

    const answer = (how: Parameters<typeof cancel>[1] | null) => {
        if (doubt && how) cancel(doubt.order, how).catch((error: Error) => say(error.message));
        setDoubt(null);
    };

    return (
        <div className="desk" ref={root}>
            <SequenceMark root={root} />
            <TopBar account={account} />
            {(feed === 'stale' || feed === 'away') && (
                <p className="banner" role="alert">
                    {feed === 'away'
                        ? 'The engine is away. Your stops rest at the venue; the desk comes back by itself.'
                        : 'The feed is stale: what you see is old. Clicks send nothing until it is live.'}
                </p>
            )}
            {feed === 'live' && shut && (
                <p className="banner shut" role="status" data-field="shut">
                    {contract.code} is {shut}. Stops sleep and act on the first trade; a ticket can hold an order until then.
                </p>
            )}
            <main>
                <Ticket account={account} contract={contract} />
                {arranging && <ArrangeBar />}
                <DeskDock account={account} contract={contract} onCancel={onCancel} acts={ladder} />
            </main>
            <Hints />
            <KeysAsleep />
            <HelpSheet />
            <SettingsSheet />
            {coverDoubt && (
                <div className="doubt" role="alertdialog" aria-label="Put this plan on?">
                    <p>{coverDoubt.words}</p>
                    <button type="button" onClick={() => useCoverDoubt.setState({ doubt: null })}>
                        Leave it as it is
                    </button>
                    <button
                        type="button"
                        data-name="cover-anyway"
                        onClick={() => {
                            useCoverDoubt.setState({ doubt: null });
                            void cover(coverDoubt.at, coverDoubt.plan, coverDoubt.more);
                        }}
                    >
                        {coverDoubt.yes}
                    </button>
                </div>
            )}
            {doubt && (
                <div className="doubt" role="alertdialog" aria-label={doubt.order.tied ? 'Cancel one or both?' : 'Take the stop off?'}>
                    <p>{doubt.words}</p>
                    {doubt.order.tied ? (
                        <>
                            <button type="button" onClick={() => answer(null)}>
                                Keep both
                            </button>
                            <button type="button" onClick={() => answer({})}>
                                Cancel this one
                            </button>
                            <button type="button" onClick={() => answer({ tied: true })}>
                                Cancel both
                            </button>
                        </>
                    ) : (
                        <>
                            <button type="button" onClick={() => answer(null)}>
                                Keep the stop
                            </button>
                            <button type="button" onClick={() => answer({ leaveUnprotected: true })}>
                                Take it off
                            </button>
                        </>
                    )}
                </div>
            )}
        </div>
    );
}
