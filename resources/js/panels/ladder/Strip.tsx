import clsx from 'clsx';
import type { Contract, Order } from '@/api/client';
import { useChangeCost } from '@/commands/changeCost';
import { changeOf, isChanging, leaveChange, raisesLots, sendChange, useChosen } from '@/commands/chosen';
import { sendPair, useDrafts } from '@/commands/drafts';
import { sendPending } from '@/commands/openByButton';
import { useTie } from '@/commands/tie';
import { useKeyOf } from '@/model/keymap';
import { dropPending } from '@/model/pending';
import { writePrice } from '@/model/prices';
import { AccountMark } from '@/panels/top/AccountMark';
import { useDesk } from '@/stream/store';
import { useKeyHolder } from '@/ui/handFocus';
import { OrderButton } from '@/ui/OrderButton';
import { WORDS } from './words';

interface Props {
    contract: Contract;
    /** what a press, or Enter, would send; empty where nothing is pointed at */
    words: string;
    kind: Order['kind'] | undefined;
    refused: boolean;
    /** what the order would be that waits above the ladder; null where none does */
    waiting: string | null;
    /** it risks more than is left of the daily loss limit */
    over: boolean;
    /** what the keys that are held down do to a click */
    modifiers: string;
    rest: string;
}

const LINE = 'flex h-[1.75rem] gap-8 overflow-hidden border-b border-rule px-12 py-[0.25rem] whitespace-nowrap contain-strict';
const ASKS = 'items-center justify-start';
const MARK = 'flex-none rounded-field bg-ink px-8 text-raised not-italic';

/** The line above the ladder: it says beforehand, in words, what a press would send. */
export function Strip({ contract, words, kind, refused, waiting, over, modifiers, rest }: Props) {
    const chosen = useChosen();
    const order = useDesk((desk) => desk.orders.get(chosen.id ?? 0));
    const tying = useTie((state) => state.from);
    const drafts = useDrafts((state) => state.list.filter((draft) => draft.contract === contract.code).length);
    const pairKey = useKeyOf('pair');
    if (waiting !== null) return <Waiting words={waiting} />;
    if (tying !== null) {
        return (
            <p className={`${LINE} ${ASKS} bg-shade font-semibold`} data-part="strip" data-field="tying">
                {WORDS.pressOtherToTie(tying)}
            </p>
        );
    }
    if (order && order.contract === contract.code && isChanging(chosen)) return <Change contract={contract} order={order} />;
    return (
        <p
            className={clsx(
                LINE,
                'justify-between',
                refused ? 'bg-amber text-on-amber' : 'bg-raised',
                kind === undefined ? 'text-soft' : 'font-semibold',
                over && 'shadow-[inset_4px_0_0_var(--color-amber)]',
            )}
            aria-live="off"
            data-part="strip"
            data-ghost={kind}
            data-refused={refused || undefined}
        >
            {/* A refusal is never cut: a narrow ladder has two smaller lines for it. */}
            <span
                className={clsx(
                    'truncate',
                    refused &&
                        '@max-[560px]/slot:line-clamp-2 @max-[560px]/slot:text-tiny @max-[560px]/slot:leading-11 @max-[560px]/slot:whitespace-normal',
                )}
                title={refused ? words : undefined}
            >
                {words || rest}
            </span>
            {modifiers && <em className={MARK}>{modifiers}</em>}
            <KeysElsewhere />
            {drafts === 2 && !modifiers && <OrderButton tone="small" label={WORDS.sendBoth} keyName={pairKey} act={sendPair} name="pair" />}
            <AccountMark />
        </p>
    );
}

/** Where the keys are for something else than the desk: Enter would not send what stands beside this. */
function KeysElsewhere() {
    const holder = useKeyHolder((state) => state.holder);
    if (holder === null) return null;
    return (
        <em className={MARK} data-field="keys-elsewhere">
            {holder.isField ? WORDS.keysAreIn(holder.name) : WORDS.enterIsFor(holder.name)}
        </em>
    );
}

/** An order without a price, which has no rung to be drawn at. */
function Waiting({ words }: { words: string }) {
    return (
        <div className={`${LINE} ${ASKS} bg-amber font-semibold text-on-amber`} data-part="strip" data-field="confirm">
            <span className="truncate first-letter:uppercase" title={words}>
                {words}
            </span>
            <OrderButton tone="small" label="Send it" keyName="Enter" act={sendPending} name="confirm" />
            <OrderButton tone="small" label="Don't send" keyName="Esc" act={() => dropPending()} name="drop-pending" />
            <KeysElsewhere />
            <AccountMark />
        </div>
    );
}

/** What the chosen order would become, and what that does to its place in the queue. */
function Change({ contract, order }: { contract: Contract; order: Order }) {
    const chosen = useChosen();
    const lots = chosen.lots ?? order.leaves;
    const raises = raisesLots(chosen, order);
    const to = [
        chosen.lots === null ? '' : `${order.leaves} → ${lots} lots`,
        chosen.tick === null || order.level === null ? '' : `${writePrice(contract, order.level)} → ${writePrice(contract, chosen.tick)}`,
    ]
        .filter(Boolean)
        .join(', ');
    const cost = useChangeCost(order, changeOf(contract, order, chosen));
    const place = cost === '' ? '' : ` (${cost})`;
    return (
        <div className={`${LINE} ${ASKS} bg-shade font-semibold`} data-part="strip" data-field="change">
            <span className="truncate">
                Order {order.id}: {to}
            </span>
            {raises && (
                <OrderButton
                    tone="small"
                    label={WORDS.addAsSecond(lots - order.leaves)}
                    keyName="Enter"
                    act={() => sendChange(contract, true)}
                    name="add-second"
                />
            )}
            <OrderButton
                tone="small"
                label={`${raises ? 'Raise it' : 'Change it'}${place}`}
                keyName={raises ? 'Shift Enter' : 'Enter'}
                act={() => sendChange(contract, false)}
                name="change"
            />
            <OrderButton tone="small" label="Leave it" keyName="Esc" act={leaveChange} name="leave-change" />
            <KeysElsewhere />
        </div>
    );
}
