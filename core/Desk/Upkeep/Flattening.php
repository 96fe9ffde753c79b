<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Flatten\ClosingDown;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Intake\OrderRequest;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Order\TimeInForce;

/**
 * Brings a contract to flat, one step at a time: entries, targets and hand-made orders go; the stops stay, those that were sent by hand too; then a
 * market close for the net goes out, and the stops shrink as it fills. It is done at position 0 with nothing working.
 * A reversal is a flatten with an entry behind it, which goes through all the checks anew when its turn comes. Like the
 * exits it looks only at the state, so it survives a kill.
 */
final class Flattening
{
    public function __construct(private readonly CommandContext $context) {}

    public function advance(AccountPosition $holding): void
    {
        if (! $holding->isClosingDown()) {
            return;
        }
        $open = $this->context->hours($holding->contract, $this->context->recorder->at)->open;
        if (! $open && $holding->closing === ClosingDown::Reversing) {
            $this->context->recorder->note(new E\Command\FlattenStarted($holding->account, $holding->contract, ClosingTrigger::SessionEnd));
        }
        foreach (self::goFirst($holding) as $order) {
            if (! $order->state->isPending()) {
                $this->context->recorder->cancel($order, 'the contract is being flattened');
            }
        }
        // Those that were held are gone already.
        if (self::goFirst($holding) !== []) {
            return;
        }
        if ($holding->position->lots !== 0) {
            // A position whose market is shut closes at the open.
            $isClosing = isset($holding->working[$holding->flattenOrder ?? 0]);
            if ($open && ! $isClosing && ! $holding->wasJustRefused(AccountPosition::FLATTEN, $this->context->recorder->at)) {
                $this->close($holding);
            }
        } elseif ($holding->working === []) {
            $this->end($holding);
        }
    }

    /** @return array<DeskOrder> entries, targets and hand-made orders that protect nothing: they go before the close is sent */
    private static function goFirst(AccountPosition $holding): array
    {
        $coverage = $holding->coverage();

        return array_filter(
            $holding->working,
            static fn(DeskOrder $o): bool => $o->role !== Role::Stop && $o->id !== $holding->flattenOrder
                && $coverage->protectedBy($o) === 0,
        );
    }

    private function close(AccountPosition $holding): void
    {
        $lots = $holding->position->lots;
        $this->context->recorder->note(new E\Order\OrderPlaced(
            $this->context->state->lastOrder + 1, $holding->account, $holding->contract, null, Side::ofPosition($lots)->opposite(),
            OrderKind::Market, abs($lots), null, null, TimeInForce::GoodTillCancelled, Role::Close, E\Order\Purpose::Flatten, 'flatten',
        ));
    }

    private function end(AccountPosition $holding): void
    {
        $then = $holding->thenEnter;
        $this->context->recorder->note(new E\Command\FlattenEnded($holding->account, $holding->contract, 'flat, nothing working'));
        if ($then === null) {
            return;
        }
        $contract = $this->context->state->contracts[$holding->contract];
        $request = OrderRequest::marketEntry(
            $contract,
            $then->side,
            $then->quantity,
            $then->plan === null ? null : ExitPlan::fromArray($then->plan),
            $this->context->recorder->at,
            $then->planVersion,
            $then->ranges,
        );
        $ticket = $this->context->intake->work(
            $request,
            $this->context->state->accounts[$holding->account],
            $this->context->quote($holding->contract),
        );
        $this->context->recorder->note($ticket->refusal === null
            ? $ticket->placed($this->context->state->lastOrder + 1, $holding->account, null, E\Order\Purpose::Reversal)
            : new E\Command\ReversalDropped(
                $holding->account,
                $holding->contract,
                $ticket->refusal->problem->value,
                $ticket->refusal->getMessage(),
            ));
    }
}
