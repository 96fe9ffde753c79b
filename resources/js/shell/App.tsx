import { useEffect, useState } from 'react';
import { Navigate, Route, Routes, useMatch } from 'react-router';
import {
    type Account,
    type Contract,
    call,
    type ExitPlan,
    type Fill,
    list,
    listPages,
    type Order,
    type Position,
    Problem,
} from '@/api/client';
import { ACCOUNTS, queries } from '@/api/queries';
import { cancel } from '@/commands/actions';
import { recallKept } from '@/commands/command';
import { openDrafts } from '@/commands/drafts';
import { watchLevels } from '@/commands/levels';
import { accountShown } from '@/model/accountShown';
import { chooseContract, chosenContract, useChoices } from '@/model/choices';
import { fetchOutsideFills } from '@/model/fillMarks';
import { openLadders, showPosition } from '@/model/ladders';
import { PATHS } from '@/model/screen';
import { loadSettings } from '@/model/settings';
import { Feed } from '@/stream/feed';
import { live, type Notice, receive, say, useDesk } from '@/stream/store';
import { Boundary } from '@/ui/Boundary';
import { useHandFocus } from '@/ui/handFocus';
import { later } from '@/ui/later';
import { useQuietControls } from '@/ui/quietControls';
import { Tips } from '@/ui/Tip';
import { useNarrow } from '@/ui/useNarrow';
import { Asked } from './Asked';
import { useHeldKeys } from './heldKeys';
import { SignedOut } from './SignedOut';
import { Unheard } from './Unheard';
import { WORDS } from './words';

const PlansScreen = later(
    () => import('@/panels/plans/PlansScreen').then((module) => module.default),
    <p className="p-16 text-soft">{WORDS.plansOpening}</p>,
);
const loadDesk = () => import('./Desk').then((module) => module.Desk);
const Desk = later(loadDesk);
const PhonePage = later(() => import('@/panels/phone/PhonePage').then((module) => module.PhonePage));

/** What stands in front is fetched with the first answers, and not after them. */
if (!window.matchMedia('(max-width: 699px)').matches) void loadDesk().catch(() => undefined);

/** How far back in the journal the desk looks when it opens, in rows. */
const TOLD = 1000;
/** Fills of before that are listed and marked. */
const FILLS = 2000;

/** What was done before this page heard anything, or while it heard nothing. Gives back how many lines the journal has of it. */
async function fetchLists(account: number): Promise<number> {
    receive.ended(await list<Order>(`orders?account=${account}&state=final`));
    receive.fills(await listPages<Fill>(`fills?account=${account}`, 'cursor', FILLS));
    const { sequence } = await call<{ sequence: number }>('GET', `orders?account=${account}&state=working`);
    return receive.told(
        await listPages<Omit<Notice, 'speaks'>>(`journal?account=${account}&after=${Math.max(0, sequence - TOLD)}`, 'after', TOLD),
    );
}

/** A whole picture in place of the one that was shown: between the two something may have been done that was not heard of. */
function useMissed(account: Account | null): void {
    const pictures = useDesk((desk) => desk.pictures);
    useEffect(() => {
        if (account === null || pictures < 2) return;
        fetchLists(account.id)
            .then((lines) => lines > 0 && say(WORDS.linesMissed(lines)))
            .catch((error: Error) => say(error.message));
    }, [account, pictures]);
}

/** How long is waited before the desk is opened anew. */
const AGAIN_MS = 1000;

/** Fetches what the desk needs before its first picture, then keeps the stream open. */
export function App() {
    const account = useChoices((choices) => choices.account);
    const contract = useChoices(chosenContract);
    const isDesk = useMatch(PATHS.desk) !== null;
    const isNarrow = useNarrow();
    const [fault, setFault] = useState('');
    useMissed(account);
    useHeldKeys();
    useQuietControls();
    useHandFocus();

    useEffect(() => {
        let feed: Feed | null = null;
        let stopLooking = () => {};
        let ended = false;
        const open = async () => {
            const [accounts, contracts, plans] = await Promise.all([
                queries.fetchQuery({ ...ACCOUNTS, staleTime: 0 }),
                list<Contract>('contracts'),
                list<ExitPlan>('exit-plans'),
                loadSettings(),
            ]);
            const shown = accountShown(accounts);
            if (ended) return;
            if (!shown) throw new Error(WORDS.noAccount);
            useChoices.setState({ account: shown, contracts, plans });
            chooseContract(contracts[0]?.code ?? '');
            openLadders();
            showPosition(await list<Position>(`positions?account=${shown.id}`));
            if (ended) return;
            feed = new Feed(
                live,
                shown.id,
                contracts.map((listed) => listed.code),
            );
            stopLooking = watchLevels();
            // What was on its way as the page was left may have been done: its draft is not shown as if it had not.
            recallKept((order) => void cancel(order).catch((error: Error) => say(error.message)))
                .then(openDrafts)
                .catch((error: Error) => say(error.message));
            fetchOutsideFills(shown.id).catch((error: Error) => say(error.message));
            // The desk is there by now, and stays: what was not fetched comes with the next whole picture.
            fetchLists(shown.id).catch((error: Error) => say(error.message));
        };
        let again = 0;
        const tryToOpen = () =>
            open()
                .then(() => setFault(''))
                .catch((error: Error) => {
                    if (ended) return;
                    // Before there is a desk there is nothing to keep.
                    if (error instanceof Problem && error.code === 'signed-out') return location.assign('/sign-in');
                    setFault(error.message);
                    // An engine that is just coming back is waited for.
                    if (error instanceof Problem && (error.status === 0 || error.status === 503))
                        again = window.setTimeout(tryToOpen, AGAIN_MS);
                });
        void tryToOpen();
        return () => {
            ended = true;
            window.clearTimeout(again);
            feed?.close();
            stopLooking();
        };
    }, []);

    if (fault !== '') {
        return (
            <p className="p-16 text-soft" role="alert">
                {WORDS.couldNotOpen} {fault}{' '}
                <button type="button" onClick={() => location.reload()}>
                    Try again
                </button>
            </p>
        );
    }
    return account && contract ? (
        <Tips>
            <Asked />
            <SignedOut />
            <div className="grid h-screen grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto]">
                <div className="relative min-h-0 overflow-auto">
                    <Boundary>
                        {isNarrow ? (
                            <PhonePage account={account} contract={contract} />
                        ) : (
                            // It stands behind the exit plans: panels in windows of their own go on.
                            <div className={isDesk ? 'h-full' : 'invisible absolute inset-0'} inert={!isDesk}>
                                <Desk account={account} contract={contract} />
                            </div>
                        )}
                        {!isNarrow && (
                            <Routes>
                                <Route path={PATHS.plans} element={<PlansScreen account={account} contract={contract} />} />
                                <Route path={PATHS.desk} element={null} />
                                <Route path="*" element={<Navigate to={PATHS.desk} replace />} />
                            </Routes>
                        )}
                    </Boundary>
                </div>
                <Unheard />
            </div>
        </Tips>
    ) : (
        <p className="p-16 text-soft">The desk is opening…</p>
    );
}
