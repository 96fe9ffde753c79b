import { ToggleGroup } from 'radix-ui';
import { useEffect, useRef } from 'react';
import type { Account, Contract } from '@/api/client';
import { cancelAccount, flattenAccount } from '@/commands/actions';
import { groundOf } from '@/model/basis';
import { chooseContract, useChoices } from '@/model/choices';
import { useIsHeld } from '@/model/held';
import { useKeyOf } from '@/model/keymap';
import { turnOneClick, useOneClick } from '@/model/oneClick';
import { countLots, writeExact, writePrice } from '@/model/prices';
import { turnHelp } from '@/panels/help/HelpSheet';
import { type FeedState, useDesk } from '@/stream/store';
import { OrderButton } from '@/ui/OrderButton';

const FEED: Record<FeedState, string> = { opening: 'opening', live: 'live', stale: 'stale', away: 'away' };

/** Money without its decimals: what is left is never shown as more than it is. */
const whole = (money: string): string => money.split('.')[0] ?? money;

function ContractTab({ contract }: { contract: Contract }) {
    const last = useDesk((desk) => desk.books[contract.code]?.last?.price);
    const lots = useDesk((desk) => desk.positions[contract.code]?.quantity ?? 0);
    const bare = useDesk((desk) => desk.positions[contract.code]?.bare ?? 0);
    return (
        <ToggleGroup.Item value={contract.code} title={contract.name} className="contract-tab">
            <b>{contract.code}</b> <span>{last === undefined ? '—' : writePrice(contract, last)}</span>
            {lots !== 0 && (
                <em className={bare > 0 ? 'bare-mark' : undefined} title={bare > 0 ? `${countLots(bare)} unprotected` : undefined}>
                    {lots > 0 ? `+${lots}` : lots}
                    {bare > 0 && '!'}
                </em>
            )}
        </ToggleGroup.Item>
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
    return (
        <ToggleGroup.Root
            ref={tabs}
            type="single"
            className="contract-tabs"
            aria-label="Contracts"
            value={code}
            onValueChange={(value) => value && chooseContract(value)}
        >
            {contracts.map((contract) => (
                <ContractTab key={contract.code} contract={contract} />
            ))}
        </ToggleGroup.Root>
    );
}

/** What the account's day has brought, and what is left to lose. */
function Figures({ account }: { account: Account }) {
    const risk = useDesk((desk) => desk.risk);
    const day = risk?.day.net ?? '0.00';
    const barred = risk?.barred_until;
    return (
        <>
            <span className="figure">
                {!barred && `${account.name} · `}day{' '}
                <b className={day.startsWith('-') ? 'loss' : 'gain'} data-field="day">
                    {writeExact(day, account.daily_loss_limit.split('.')[1]?.length ?? 0)} {account.currency}
                </b>
            </span>
            <span className="figure">
                {barred && (
                    <b
                        className="alarm"
                        data-field="barred"
                        title={`${account.name} takes no new entry until ${barred.slice(11, 16)} UTC; what only reduces is taken`}
                    >
                        barred until {barred.slice(11, 16)} UTC
                    </b>
                )}{' '}
                {barred ? 'Room' : 'Loss room'}{' '}
                <b data-field="loss-room">
                    {risk ? whole(risk.loss_room) : '—'} of {risk ? whole(risk.loss_limit) : '—'}
                </b>
            </span>
        </>
    );
}

function FeedWord() {
    const feed = useDesk((desk) => desk.feed);
    const delay = useDesk((desk) => Math.min(999, desk.delay));
    return (
        <span className={`feed ${feed}`} role="status">
            <span data-field="feed">{FEED[feed]}</span>
            {feed === 'live' && <small> · {delay} ms</small>}
        </span>
    );
}

/** The window's own title says it too, for whoever looks at another window. */
function useTitle(): void {
    const bare = useDesk((desk) => Object.values(desk.positions).reduce((sum, position) => sum + position.bare, 0));
    useEffect(() => {
        document.title = bare > 0 ? `! ${bare} unprotected · Lotrik` : 'Desk · Lotrik';
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
        <span className="whole-account">
            <OrderButton
                tone="small"
                label="Flatten all"
                title={`Every contract of the account; ${flattenKey} held does the same`}
                held={holdsFlatten}
                disabled={!isOpen && !isWorking}
                act={() => flattenAccount(groundOf())}
                name="flatten-account"
            />
            <OrderButton
                tone="small"
                label="Cancel all"
                title={`Entries and hand-made orders of every contract, the stops stay; ${cancelKey} held does the same`}
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
        <header className="top-bar">
            <span className="wordmark">Lotrik</span>
            <button
                type="button"
                className="order-button small"
                title="All keys, and what the pointer does"
                data-name="help"
                onClick={turnHelp}
            >
                ?
            </button>
            <ContractTabs />
            <span className="spacer" />
            <Figures account={account} />
            <FeedWord />
            <WholeAccount />
            <OrderButton
                tone="small"
                label={oneClick ? 'One-click on' : 'One-click off'}
                keyName={useKeyOf('one-click')}
                held={oneClick}
                act={() => turnOneClick(!oneClick)}
                name="one-click"
            />
            <form method="post" action="/sign-out">
                <input type="hidden" name="_token" value={document.querySelector<HTMLMetaElement>('meta[name="csrf-token"]')?.content} />
                <button type="submit">Sign out</button>
            </form>
        </header>
    );
}
