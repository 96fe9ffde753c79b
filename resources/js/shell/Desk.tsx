import { type RefObject, useCallback, useEffect, useRef } from 'react';
import { type Account, type Contract, Problem } from '@/api/client';
import { cancel } from '@/commands/actions';
import { ArrangeBar } from '@/dock/ArrangeBar';
import { DeskDock } from '@/dock/DeskDock';
import { useDock } from '@/dock/dock';
import type { LadderActs } from '@/model/ladderActs';
import { countLots } from '@/model/prices';
import { HelpSheet } from '@/panels/help/HelpSheet';
import { Hints } from '@/panels/help/Hints';
import { KeysAsleep } from '@/panels/help/KeysAsleep';
import { SettingsSheet } from '@/panels/settings/SettingsSheet';
import { Ticket } from '@/panels/ticket/Ticket';
import { TopBar } from '@/panels/top/TopBar';
import { say, useDesk } from '@/stream/store';
import { ask } from '@/ui/question';
import { useQuickKeys } from './keys';
import { useOneClickGuard } from './useOneClickGuard';

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
    const root = useRef<HTMLDivElement>(null);

    useOneClickGuard();
    useQuickKeys(ladder);

    const onCancel = useCallback(async (id: number) => {
        const order = useDesk.getState().orders.get(id);
        if (!order) return;
        const go = (how?: Parameters<typeof cancel>[1]) => cancel(order, how).catch((error: Error) => say(error.message));
        if (order.tied)
            return ask({
                title: 'Cancel one or both?',
                words: `Order ${id} is tied to order ${order.tied.order}.`,
                safe: 'Keep both',
                answers: [
                    { label: 'Cancel this one', act: () => void go() },
                    { label: 'Cancel both', act: () => void go({ tied: true }) },
                ],
            });
        try {
            await cancel(order);
        } catch (error) {
            if (!(error instanceof Problem)) throw error;
            ask({
                title: 'Take the stop off?',
                words: `Removing this stop leaves ${countLots(Number(error.facts.unprotected))} unprotected.`,
                safe: 'Keep the stop',
                answers: [{ label: 'Remove stop', act: () => void go({ leaveUnprotected: true }) }],
            });
        }
    }, []);

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
        </div>
    );
}
