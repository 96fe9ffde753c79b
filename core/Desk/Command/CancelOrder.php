<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\CommandContext;
use Lotrik\Desk\CommandHead;
use Lotrik\Desk\EventText;
use Lotrik\Document\Node;
use Lotrik\Order\OrderState;

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
        $coverage = $this->context->state->holding($order->account, $order->contract)->coverage();
        $other = $tied && $order->tie !== null ? $this->context->state->orders[$order->tie->other] ?? null : null;
        $bare = $coverage->protectedBy($order) + ($other === null ? 0 : $coverage->protectedBy($other));
        if ($bare > 0) {
            $this->context->mayUnprotect(
                $command, $order->contract, $bare, $other === null ? "order {$order->id}" : "orders {$order->id} and {$other->id}", $leave,
            );
        }
        $named = EventText::named($order, $this->context->state->contracts[$order->contract]);
        $later = $order->state->isPending() ? ', as soon as the answer is here' : '';
        $this->context->accept($command, $order->contract, ['order' => $order->id], "Cancel $named$later");
        $this->context->cancelByHand($order, 'by hand');
        if ($other !== null && ! $other->state->isFinal()) {
            $this->context->cancelByHand($other, 'by hand, with the order that it was tied to');
        }

        return ['order' => $order->id];
    }
}
