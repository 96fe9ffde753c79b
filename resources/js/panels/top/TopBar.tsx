import clsx from 'clsx';
import { type ReactNode, type RefObject, useEffect, useRef, useState } from 'react';
import type { Account, Contract } from '@/api/client';
import { cancelAccount, flattenAccount } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { chooseContract, useChoices } from '@/model/choices';
import { openDay } from '@/model/daySheet';
import { useIsHeld } from '@/model/held';
import { useKeyOf } from '@/model/keymap';
import { turnOneClick, useOneClick } from '@/model/oneClick';
import { countLots, writeExact, writePrice } from '@/model/prices';
import { turnHelp } from '@/panels/help/HelpSheet';
import { RoomBar } from '@/panels/risk/RoomBar';
import { useOpenRisk } from '@/panels/risk/useOpenRisk';
import { type FeedState, isBroken, useDesk } from '@/stream/store';
import { Button } from '@/ui/Button';
import { Figure } from '@/ui/Figure';
import { Choice, OneOf } from '@/ui/OneOf';
import { OrderButton } from '@/ui/OrderButton';
import { AccountPicker } from './AccountPicker';
import { SignOut } from './SignOut';
import { WORDS } from './words';

const FIGURE = 'font-mono tabular-nums';
const FEED: Record<FeedState, string> = { opening: 'opening', live: 'live', stale: 'stale', away: 'away', foreign: 'reload' };

/** Money without its decimals: what is left is never shown as more than it is. */
const whole = (money: string): string => money.split('.')[0] ?? money;

function ContractTab({ contract }: { contract: Contract }) {
    const last = useDesk((desk) => desk.books[contract.code]?.last?.price);
    const lots = useDesk((desk) => desk.positions[contract.code]?.quantity ?? 0);
    const bare = useDesk((desk) => desk.positions[contract.code]?.bare ?? 0);
    return (
        <Choice
            value={contract.code}
            title={contract.name}
            className={clsx(
                'grid cursor-pointer grid-cols-[auto_auto] gap-x-2 rounded-card border border-transparent px-4 py-3 text-left text-small leading-[1.2]',
                'data-[state=on]:border-ink data-[state=on]:bg-paper',
                bare > 0 || Math.abs(lots) >= 10 ? 'w-[4.75rem]' : 'w-[4rem]',
            )}
            data-part="contract-tab"
        >
            <b>{contract.code}</b>{' '}
            <span className="col-span-2 row-start-2 font-mono text-tiny leading-[normal] text-soft">
                {last === undefined ? '—' : writePrice(contract, last)}
            </span>
            {lots !== 0 && (
                <em
                    className={clsx(
                        'text-right font-mono text-tiny leading-[normal] font-bold',
                        bare > 0 && 'rounded-chip bg-amber px-3 text-on-amber',
                    )}
                    title={bare > 0 ? `${countLots(bare)} unprotected` : undefined}
                >
                    {lots > 0 ? `+${lots}` : lots}
                    {bare > 0 && '!'}
                </em>
            )}
        </Choice>
    );
}

/** Drawn again only when another contract is chosen: its tabs watch their own prices. */
function ContractTabs() {
    const contracts = useChoices((choices) => choices.contracts);
    const code = useChoices((choices) => choices.code);
    const tabs = useRef<HTMLDivElement>(null);
    // biome-ignore lint/correctness/useExhaustiveDependencies: another contract stands elsewhere
    useEffect(() => {
        tabs.current?.querySelector('[data-state=on]')?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    }, [code, contracts]);
    const { before, after } = useHidden(tabs, contracts.length);
    const scroll = (by: number) => tabs.current?.scrollBy({ left: (by * tabs.current.clientWidth) / 2 });
    return (
        <div className="relative flex min-w-70 flex-[0_1_auto] max-[899px]:flex-[1_1_0]">
            <OneOf
                ref={tabs}
                name="contract-tabs"
                label="Contracts"
                className="flex min-w-0 flex-1 overflow-x-auto scrollbar-none"
                value={code}
                set={chooseContract}
                onWheel={(event) => tabs.current?.scrollBy({ left: event.deltaX || event.deltaY })}
            >
                {contracts.map((contract) => (
                    <ContractTab key={contract.code} contract={contract} />
                ))}
            </OneOf>
            {before > 0 && (
                <Button tone="edge" className="left-0 border-r" data-name="contracts-before" onClick={() => scroll(-1)}>
                    ‹ {before}
                </Button>
            )}
            {after > 0 && (
                <Button tone="edge" className="right-0 border-l" data-name="contracts-after" onClick={() => scroll(1)}>
                    {after} ›
                </Button>
            )}
        </div>
    );
}

/** How many of a row's children are not whole in sight, on either side. */
function useHidden(row: RefObject<HTMLElement | null>, count: number): { before: number; after: number } {
    const [hidden, setHidden] = useState({ before: 0, after: 0 });
    // biome-ignore lint/correctness/useExhaustiveDependencies: another number of children has others out of sight
    useEffect(() => {
        const element = row.current;
        if (element === null) return;
        const look = () => {
            const { left, right } = element.getBoundingClientRect();
            const boxes = [...element.children].map((child) => child.getBoundingClientRect());
            const before = boxes.filter((box) => box.left < left - 1).length;
            const after = boxes.filter((box) => box.right > right + 1).length;
            setHidden((old) => (old.before === before && old.after === after ? old : { before, after }));
        };
        const observer = new ResizeObserver(look);
        observer.observe(element);
        for (const child of element.children) observer.observe(child);
        element.addEventListener('scroll', look);
        return () => {
            observer.disconnect();
            element.removeEventListener('scroll', look);
        };
    }, [row, count]);
    return hidden;
}

/** A figure that tells how the day went once it is pressed, where there is room for that. */
function Tells({ name, means, tells, children }: { name: string; means: string; tells: boolean; children: ReactNode }) {
    if (!tells) return <span title={means}>{children}</span>;
    return (
        <Button tone="text" data-name={name} title={means} onClick={openDay}>
            {children}
        </Button>
    );
}

/** What the account's day has brought, and what is left to lose. */
export function Figures({ account, tells }: { account: Account /** a press tells how the day went */; tells: boolean }) {
    const risk = useDesk((desk) => desk.risk);
    const day = risk?.day.net ?? '0.00';
    const barred = risk?.barred_until;
    const stopped = risk?.stopped_until;
    const wouldBe = useOpenRisk(false);
    return (
        <>
            <span className="flex-none" data-part="figure">
                <AccountPicker account={account} />{' '}
                <Tells name="day" means={WORDS.dayMeans} tells={tells}>
                    day{' '}
                    <Figure money={day} className={FIGURE} data-field="day">
                        {writeExact(day, account.daily_loss_limit.split('.')[1]?.length ?? 0)} {account.currency}
                    </Figure>
                </Tells>
            </span>
            <span className="flex-none" data-part="figure">
                {barred && (
                    <Tells
                        name="why-barred"
                        means={WORDS.barredMeans(account.name, risk.barred_for ?? '', barred.slice(11, 16))}
                        tells={tells}
                    >
                        <b className="bg-amber px-8 py-2 font-mono font-bold text-on-amber tabular-nums" data-field="barred">
                            {WORDS.barredUntilUtc(barred.slice(11, 16))}
                        </b>
                    </Tells>
                )}
                {!barred && stopped && (
                    <b
                        className="bg-amber px-8 py-2 font-mono font-bold text-on-amber tabular-nums"
                        data-field="stopped"
                        title={WORDS.stoppedMeans(risk.stopped_because ?? '')}
                    >
                        {WORDS.noEntriesUntil(stopped.slice(11, 16))}
                    </b>
                )}{' '}
                <span className="relative inline-block" title={risk ? WORDS.roomTo(risk.loss_room_limit) : undefined}>
                    {barred || stopped ? 'Room' : 'Loss room'}{' '}
                    <b className={FIGURE} data-field="loss-room">
                        {risk ? whole(risk.loss_room) : '—'} of {risk ? whole(risk.loss_limit) : '—'}
                    </b>
                    {risk && (
                        <RoomBar
                            className="absolute! inset-x-0 -bottom-7"
                            isWhatIf={wouldBe.isWhatIf}
                            room={risk.loss_room}
                            limit={risk.loss_limit}
                            risk={(wouldBe.isWhatIf ? wouldBe.risk?.totals.from_here : undefined) ?? risk.risk_from_here}
                        />
                    )}
                </span>
            </span>
        </>
    );
}

export function FeedWord() {
    const feed = useDesk((desk) => desk.feed);
    const delay = useDesk((desk) => Math.min(999, desk.delay));
    return (
        <span
            className={clsx(
                'min-w-50 flex-none rounded-card border border-rule px-6 py-2 text-center',
                isBroken(feed) && 'bg-amber font-bold text-on-amber',
            )}
            role="status"
            data-part="feed"
        >
            <span data-field="feed">{FEED[feed]}</span>
            {feed === 'live' && <small> · {delay} ms</small>}
        </span>
    );
}

/** The window's own title says it too, for whoever looks at another window. */
export function useTitle(): void {
    const bare = useDesk((desk) => Object.values(desk.positions).reduce((sum, position) => sum + position.bare, 0));
    useEffect(() => {
        document.title = WORDS.windowTitle(bare);
    }, [bare]);
}

/** Where something is open or working: the way out of all of it. */
function WholeAccount() {
    const isOpen = useDesk((desk) => Object.values(desk.positions).some((position) => position.quantity !== 0));
    const isWorking = useDesk((desk) => desk.orders.size > 0);
    const flattenKey = useKeyOf('flatten-account');
    const cancelKey = useKeyOf('cancel-account');
    const holdsFlatten = useIsHeld('flatten-account');
    const holdsCancel = useIsHeld('cancel-account');
    return (
        <span className="flex flex-none gap-2">
            <OrderButton
                tone="tiny"
                label="Flatten all"
                title={WORDS.flattenAllMeans(flattenKey)}
                held={holdsFlatten}
                disabled={!isOpen && !isWorking}
                act={() => flattenAccount(groundOf())}
                name="flatten-account"
            />
            <OrderButton
                tone="tiny"
                label="Cancel all"
                title={WORDS.cancelAllMeans(cancelKey)}
                held={holdsCancel}
                disabled={!isWorking}
                act={() => cancelAccount(groundOf())}
                name="cancel-account"
            />
        </span>
    );
}

export function TopBar({ account }: { account: Account }) {
    const oneClick = useOneClick((state) => state.on);
    useTitle();
    return (
        <header
            // Where a window is hardly wider than a phone the account's figures take a row of their own.
            className="row-start-1 flex h-44 items-center gap-7 border-b border-rule bg-raised px-10 text-usual whitespace-nowrap contain-strict max-[899px]:h-80 max-[899px]:flex-wrap max-[899px]:content-evenly"
            data-part="top-bar"
        >
            <span className="flex-none text-title font-[750] max-[1023px]:hidden">Lotrik</span>
            <Button tone="small" className="flex-none" title={WORDS.helpMeans} data-name="help" onClick={turnHelp}>
                ?
            </Button>
            <ContractTabs />
            <span className="flex-1 max-[899px]:hidden" />
            <span className="hidden h-0 basis-full max-[899px]:block" />
            <Figures account={account} tells />
            <FeedWord />
            <WholeAccount />
            <OrderButton
                tone="small"
                className="flex-none"
                label={oneClick ? 'One-click on' : 'One-click off'}
                keyName={useKeyOf('one-click')}
                held={oneClick}
                act={() => turnOneClick(!oneClick)}
                name="one-click"
            />
            <SignOut />
        </header>
    );
}
