import { ToggleGroup } from 'radix-ui';
import type { Account, Contract } from '@/api/client';
import { useDesk } from '@/stream/store';
import { OrderButton } from '@/ui/OrderButton';
import { place } from './actions';
import { LOTS, typeLots, useChoices } from './choices';
import { useKeyOf } from './keymap';
import { writeExact, writePrice } from './prices';
import { RatchetCurve } from './RatchetCurve';
import { useGhostWords } from './useGhost';

const NO_PLAN = 'none';

function PlanPicker() {
    const plan = useChoices((choices) => choices.plan);
    const plans = useChoices((choices) => choices.plans);
    return (
        <ToggleGroup.Root
            type="single"
            className="plans"
            aria-label="Exit plan"
            value={plan === null ? NO_PLAN : String(plan)}
            onValueChange={(value) => value && useChoices.setState({ plan: value === NO_PLAN ? null : Number(value) })}
        >
            {plans.map((candidate) => (
                <ToggleGroup.Item key={candidate.id} value={String(candidate.id)}>
                    {candidate.document.name}
                </ToggleGroup.Item>
            ))}
            <ToggleGroup.Item value={NO_PLAN}>No plan</ToggleGroup.Item>
        </ToggleGroup.Root>
    );
}

function LotsRow() {
    const lots = useChoices((choices) => choices.lots);
    return (
        <ToggleGroup.Root
            type="single"
            className="lots"
            aria-label="Lots"
            value={String(lots)}
            onValueChange={(value) => value && useChoices.setState({ lots: Number(value) })}
        >
            {LOTS.map((count, index) => (
                <ToggleGroup.Item key={count} value={String(count)}>
                    {count} <kbd>{index + 1}</kbd>
                </ToggleGroup.Item>
            ))}
        </ToggleGroup.Root>
    );
}

export function OrderCard({ account, contract }: { account: Account; contract: Contract }) {
    const lots = useChoices((choices) => choices.lots);
    const plan = useChoices((choices) => choices.plan);
    const bid = useDesk((desk) => desk.books[contract.code]?.bestBid ?? null);
    const ask = useDesk((desk) => desk.books[contract.code]?.bestAsk ?? null);
    const quantity = useDesk((desk) => desk.positions[contract.code]?.quantity ?? 0);
    const sequence = useDesk((desk) => desk.positions[contract.code]?.sequence ?? 0);
    // What a market order that adds to the position would be: how the lots split, and what they risk.
    const words = useGhostWords(
        {
            account: account.id,
            contract: contract.code,
            quantity: lots,
            exit_plan: plan,
            side: quantity < 0 ? 'sell' : 'buy',
            kind: 'market',
        },
        String(sequence),
    );

    return (
        <section className="card" aria-label="Lots and exit plan">
            <header>
                <span>Exit plan</span>
                <kbd>{useKeyOf('next-plan')} next</kbd>
            </header>
            <PlanPicker />
            <RatchetCurve contract={contract} />
            <header>
                <label className="typed-lots">
                    Lots{' '}
                    <input
                        type="number"
                        min={1}
                        max={account.order_limit}
                        step={1}
                        value={lots}
                        onChange={(event) => typeLots(event.target.value, account.order_limit)}
                    />
                </label>
                <span data-field="margin">{words?.margin ? `margin ${writeExact(words.margin, contract.minor_unit, false)} ${contract.currency}` : ''}</span>
            </header>
            <LotsRow />
            <p className="split" data-field="split">
                {words?.split ?? ' '}
            </p>
            <p className="market-words">{words?.words ?? ' '}</p>
            <div className="pair">
                <OrderButton
                    label={`Buy at ${ask === null ? '—' : writePrice(contract, ask)}`}
                    act={() => place({ side: 'buy', kind: 'market' })}
                    name="buy-market"
                    disabled={ask === null}
                />
                <OrderButton
                    label={`Sell at ${bid === null ? '—' : writePrice(contract, bid)}`}
                    act={() => place({ side: 'sell', kind: 'market' })}
                    name="sell-market"
                    disabled={bid === null}
                />
            </div>
        </section>
    );
}
