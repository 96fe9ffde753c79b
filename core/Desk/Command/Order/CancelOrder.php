<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command\Order;

use Lotrik\Desk\Command\Command;
use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Command\CommandHead;
use Lotrik\Desk\Event\EventText;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Question\Exposure;
use Lotrik\Document\Node;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;

/** Cancels one order; taking a stop off is asked about first. */
final class CancelOrder implements Command
{
    public function __construct(private readonly CommandContext $context) {}

    public function handle(CommandHead $command, Node $body): array
    {
        $order = $this->context->orderOf($command, $body);
        $leave = $body->bool('leave_unprotected', false);
        $tied = $body->bool('tied', false);
        $body->done();
        if ($order->state === OrderState::PendingCancel) {
            $this->context->accept($command, $order->contract, ['order' => $order->id], 'Cancel again');

            return ['order' => $order->id];
        }
        $holding = $this->context->state->holding($order->account, $order->contract);
        $other = $tied && $order->tie !== null ? $this->context->state->orders[$order->tie->other] ?? null : null;
        $gone = array_filter([$order, $other]);
        // Without an entry, a target or a limit that closes there is nothing more to lose.
        if (array_filter($gone, static fn(DeskOrder $of): bool => $of->role !== Role::Entry && $of->kind->isStop()) !== []) {
            $this->context->mayBe(
                $this->context->asking->of(
                    $command->account, $holding, $this->context->recorder->at, self::without($gone, $holding, $this->context),
                ),
                'cancelling order'.($other === null ? " {$order->id}" : "s {$order->id} and {$other->id}"), $leave,
            );
        }
        $named = EventText::named($order, $this->context->state->contracts[$order->contract]);
        $later = $order->state->isPending() ? ', once the venue answers' : '';
        $this->context->accept($command, $order->contract, ['order' => $order->id], "Cancel $named$later");
        $this->context->cancelByHand($order, 'by hand');
        if ($other !== null && ! $other->state->isFinal()) {
            $this->context->cancelByHand($other, 'by hand, with the order that it was tied to');
        }

        return ['order' => $order->id];
    }

    /**
     * What would be open, and protected, without some orders.
     *
     * @param array<DeskOrder> $gone
     */
    public static function without(array $gone, AccountPosition $holding, CommandContext $context): Exposure
    {
        $after = $context->asking->now($holding);
        foreach ($gone as $order) {
            $of = $order->role === Role::Stop ? $holding->portionOf($order) : null;
            $after = match (true) {
                $of !== null => $after->withStops([$of], null),
                $order->role === Role::Entry => $after->withoutEntry($order->id),
                $order->kind->isStop() => $after->withStopByHand($order->id, 0, 0),
                default => $after,
            };
        }

        return $after;
    }
}
