import { useCallback, useEffect, useRef } from 'react';
import { type Account, type Contract, Problem } from '@/api/client';
import { cancel } from '@/commands/actions';
import { ArrangeBar } from '@/dock/ArrangeBar';
import { DeskDock } from '@/dock/DeskDock';
import { useDock } from '@/dock/dock';
import { openDay } from '@/model/daySheet';
import type { LadderActs } from '@/model/ladderActs';
import { countLots } from '@/model/prices';
import { useTicket } from '@/model/ticketState';
import { HelpSheet } from '@/panels/help/HelpSheet';
import { Hints } from '@/panels/help/Hints';
import { KeysAsleep } from '@/panels/help/KeysAsleep';
import { SequenceMark } from '@/panels/top/SequenceMark';
import { TopBar } from '@/panels/top/TopBar';
import { deskNow, isBroken, say, useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { fetchLater, later } from '@/ui/later';
import { ask } from '@/ui/question';
import { MAIN, SCREEN } from '@/ui/screens';
import { useQuickKeys } from './keys';
import { LastMinutes } from './LastMinutes';
import { Later } from './Later';
import { useOneClickGuard } from './useOneClickGuard';
import { WORDS } from './words';

/** They take their room from the foot of the desk, so that neither rungs nor buttons move under the pointer. */
const LINE = 'min-h-28 bg-amber px-14 py-4 font-bold text-on-amber';

const Ticket = later<{ account: Account; contract: Contract }>(() => import('@/panels/ticket/Ticket').then((module) => module.Ticket));

const BROKEN = {
    away: WORDS.engineAway,
    stale: WORDS.feedStale,
    foreign: WORDS.engineForeign,
};

export function Desk({ account, contract }: { account: Account; contract: Contract }) {
    const feed = useDesk((desk) => desk.feed);
    const shut = useDesk((desk) => (desk.hours[contract.code]?.open === false ? desk.hours[contract.code]?.words : undefined));
    const ladder = useRef<LadderActs>(null);
    const isTicketOpen = useTicket((ticket) => ticket.open);
    const arranging = useDock((state) => state.arranging);

    // All else is fetched once there is a ladder: a server that goes away later takes no part of the page along.
    const isDrawn = useDesk((desk) => desk.books[contract.code] !== undefined);
    useEffect(() => {
        if (isDrawn) fetchLater();
    }, [isDrawn]);

    useOneClickGuard();
    useQuickKeys(ladder);

    const onCancel = useCallback(async (id: number) => {
        const order = deskNow().orders.get(id);
        if (!order) return;
        const go = async (tied: boolean) => {
            try {
                await cancel(order, { tied });
            } catch (error) {
                if (!(error instanceof Problem)) throw error;
                ask({
                    title: 'Take the stop off?',
                    words: WORDS.removingStopLeaves(countLots(Number(error.facts.unprotected))),
                    safe: 'Keep the stop',
                    answers: [
                        {
                            label: 'Remove stop',
                            act: () => void cancel(order, { tied, leaveUnprotected: true }).catch((failed: Error) => say(failed.message)),
                        },
                    ],
                });
            }
        };
        if (order.tied)
            return ask({
                title: 'Cancel one or both?',
                words: WORDS.isTied(id, order.tied.order),
                safe: 'Keep both',
                answers: [
                    { label: 'Cancel this one', act: () => void go(false) },
                    { label: 'Cancel both', act: () => void go(true) },
                ],
            });
        await go(false);
    }, []);

    return (
        <div className={SCREEN} data-part="desk">
            <h1 className="sr-only">{WORDS.title}</h1>
            <SequenceMark />
            <TopBar account={account} />
            <main className={MAIN}>
                {isTicketOpen && <Ticket account={account} contract={contract} />}
                {arranging && <ArrangeBar />}
                <DeskDock account={account} contract={contract} onCancel={onCancel} acts={ladder} />
            </main>
            <div className="row-start-3">
                {isBroken(feed) && (
                    <p className={LINE} role="alert" data-part="banner">
                        {BROKEN[feed]}
                    </p>
                )}
                {feed === 'live' && shut && (
                    <p className={LINE} role="status" data-part="banner" data-field="shut">
                        {WORDS.stopsSleep(contract.code, shut)}{' '}
                        <Button tone="text" data-name="day-summary" onClick={openDay}>
                            {WORDS.summary}
                        </Button>
                    </p>
                )}
                <LastMinutes />
            </div>
            <Hints />
            <KeysAsleep />
            <HelpSheet />
            <Later />
        </div>
    );
}
