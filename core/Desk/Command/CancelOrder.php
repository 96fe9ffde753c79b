<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\CommandHead;
use Lotrik\Desk\Words;
use Lotrik\Desk\Workbench;
use Lotrik\Document\Node;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;

/** Cancels one order; taking a stop off is asked about first. */
final class CancelOrder implements Command
{
    public function __construct(private readonly Workbench $bench) {}

    public function take(CommandHead $command, Node $body): array
    {
        $order = $this->bench->orderOf($command, $body);
        $leave = $body->bool('leave_unprotected', false);
        $tied = $body->bool('tied', false);
        $body->done();
        if ($order->state === OrderState::PendingCancel) {
            $this->bench->taken($command, $order->contract, ['order' => $order->id], 'Cancel again');

            return ['order' => $order->id];
        }
        if ($order->role === Role::Stop && ! $leave) {
            throw Workbench::wouldUnprotect($order->leaves(), "order {$order->id}");
        }
        $this->bench->taken($command, $order->contract, ['order' => $order->id], 'Cancel '.Words::named($order, $this->bench->state->contracts[$order->contract]).($order->state->isPending() ? ', as soon as the answer is here' : ''));
        $this->bench->cancelByHand($order, 'by hand');
        $other = $tied && $order->tie !== null ? $this->bench->state->orders[$order->tie->other] ?? null : null;
        if ($other !== null && ! $other->state->isFinal()) {
            $this->bench->cancelByHand($other, 'by hand, with the order that it was tied to');
        }

        return ['order' => $order->id];
    }
}
