<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Command\CommandContext;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;

/**
 * Orders that wait for something, and orders that end at a time. It looks only at the state, the time and the last
 * prices, so that a kill in between changes nothing but the moment.
 */
final class DueOrders
{
    public function __construct(private readonly CommandContext $context, private readonly Timetable $timetable) {}

    /** Time has gone by: what is due ends or is released. */
    public function tick(int $at): void
    {
        $due = $this->timetable->due($at);
        foreach ($due as $id) {
            $order = $this->context->state->orders[$id] ?? null;
            if ($order !== null) {
                $this->check($order, $at);
                $this->timetable->schedule($order, $at);
            }
        }
    }

    /** A contract has traded, or has opened. */
    public function news(string $contract, int $at): void
    {
        $this->checkAll($this->timetable->waiting($contract), $at);
    }

    /** Orders have changed that held ones wait for. */
    public function parentsChanged(int $at): void
    {
        while (($stirred = $this->timetable->stirred()) !== []) {
            $this->checkAll($stirred, $at);
        }
    }

    /** @param list<int> $orders */
    private function checkAll(array $orders, int $at): void
    {
        foreach ($orders as $id) {
            $order = $this->context->state->orders[$id] ?? null;
            if ($order !== null && $order->isHeld()) {
                $this->check($order, $at);
            }
        }
    }

    private function check(DeskOrder $order, int $at): void
    {
        if ($order->state->isPending() || $order->state->isFinal()) {
            return;
        }
        $ends = $order->ends();
        $isOver = ($ends !== null && $at >= $ends) || ($order->cancelAt !== null && $at >= $order->cancelAt);
        if ($isOver && $this->mustStay($order, $at)) {
            $this->context->recorder->note(new E\Order\DurationChanged($order->id, TimeInForce::GoodTillCancelled, null, stays: true));
        } elseif ($ends !== null && $at >= $ends) {
            $this->context->recorder->note(new E\Order\OrderExpired(
                $order->id,
                $order->expiresAt === null ? 'the session has ended' : 'its date has come',
            ));
        } elseif ($order->cancelAt !== null && $at >= $order->cancelAt) {
            $this->context->recorder->cancel(
                $order,
                $order->filled > 0 ? 'the rest had not filled in its time' : 'it had not filled in its time',
            );
        } elseif ($order->isHeld()) {
            $this->checkHeld($order, $at);
        }
    }

    /** A closing stop that was sent by hand does not end where by the limits its lots may not be without one. */
    private function mustStay(DeskOrder $order, int $at): bool
    {
        if ($order->role !== Role::Close || ! $order->kind->isStop() || $order->isHeld()) {
            return false;
        }
        $holding = $this->context->state->holding($order->account, $order->contract);
        $after = $this->context->asking->now($holding)->withStopByHand($order->id, 0, 0);

        return $this->context->asking->question->standingRefusal(
            $this->context->asking->of($this->context->state->accounts[$order->account], $holding, $at, $after),
        ) !== null;
    }

    private function checkHeld(DeskOrder $order, int $at): void
    {
        $releaseWhen = $order->releaseWhen;
        assert($releaseWhen !== null);
        if (! $this->context->hours($order->contract, $at)->open) {
            return;
        }
        $parent = $releaseWhen->after === null ? null : $this->context->state->orders[$releaseWhen->after] ?? null;
        if ($releaseWhen->after !== null && ($parent === null || $parent->state->isFinal()) && ($parent->filled ?? 0) === 0) {
            $this->context->recorder->cancel($order, "order {$releaseWhen->after}, which it waited for, ended without a fill");
        } elseif ($releaseWhen->isOver(
            $at,
            $releaseWhen->contract === null ? null : $this->context->quote($releaseWhen->contract)->last,
            ($parent->filled ?? 0) > 0,
        )) {
            $this->release($order);
        }
    }

    /** What would be refused now is refused now, and not sent as something else. */
    private function release(DeskOrder $order): void
    {
        $position = $this->context->state->holding($order->account, $order->contract)->position;
        if ($order->role === Role::Close && $position->closedBy($order->side, $order->quantity) === 0) {
            $this->context->recorder->cancel($order, 'when it was due there was no position to close');

            return;
        }
        $ticket = $this->context->intake->due($order, $this->context->quote($order->contract), $this->context->recorder->at);
        $isOther = $ticket->role !== $order->role;
        $this->context->recorder->note($ticket->refusal === null
            ? new E\Order\OrderReleased(
                $order->id, 'what it waited for has come',
                $isOther ? $ticket->role : null, $isOther ? $order->filled + $ticket->quantity : null,
            )
            : new E\Order\OrderRejected($order->id, "when it was due: {$ticket->refusal->getMessage()}"));
    }

    private function shrink(DeskOrder $order, int $closes): void
    {
        if ($closes === 0) {
            $this->context->recorder->cancel($order, 'the position that it closes is gone');
        } elseif ($closes < $order->leaves()) {
            $this->context->recorder->note(new E\Fill\OrderReduced(
                $order->id,
                $order->leaves() - $closes,
                'the position that it closes became smaller',
            ));
        }
    }

    /**
     * What the venue cannot see to where it does not know of an order: the other half of a group that is decided, a
     * held close whose position is gone; and what the trader wished while an answer was under way.
     */
    public function follow(AccountPosition $holding): void
    {
        foreach ($holding->working as $order) {
            if ($order->isHeld() && $order->role === Role::Close) {
                $this->shrink($order, $holding->position->closedBy($order->side, $order->leaves()));

                continue;
            }
            if ($order->state->isPending()) {
                continue;
            }
            if ($order->cancelWished) {
                $this->context->recorder->cancel($order, 'by hand, once the venue had answered');

                continue;
            }
            $other = $order->tie === null ? null : $this->context->state->orders[$order->tie->other] ?? null;
            if ($other !== null && $order->tie->oco && ($other->filled > 0 || $other->triggered)) {
                $this->context->recorder->cancel($order, "order {$other->id}, tied to it, ".($other->filled > 0 ? 'filled' : 'triggered'));
            }
        }
    }
}
