<?php

declare(strict_types=1);

namespace Lotrik\Desk\State;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Order\Tie;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;

/** An order as its events change it, from being sent to its end. */
final class OrderEvents
{
    private const MINUTE = 60_000;

    /** How many orders in a final state are kept at hand; older ones are read from the journal's tables. */
    private const MAX_FINISHED = 1_000;

    public static function placed(DeskState $state, E\Order\OrderPlaced $event, int $at): void
    {
        $order = new DeskOrder($event, $at);
        $state->lastOrder = max($state->lastOrder, $order->id);
        $state->orders[$order->id] = $order;
        $holding = HeldPosition::of($state, $order->account, $order->contract);
        $holding->working[$order->id] = $order;
        if ($order->role->isExit()) {
            $holding->exitOrders[self::exitKey($order)] = $order->id;
        }
        if ($order->purpose === E\Order\Purpose::Flatten && $holding->isClosingDown()) {
            $holding->flattenOrder = $order->id;
        }
        if ($order->role === Role::Entry) {
            $book = $state->bookOf($order->account);
            $book->entriesSent = [
                ...array_filter($book->entriesSent, static fn(int $sent): bool => $sent > $at - self::MINUTE),
                $at,
            ];
        }
    }

    /**
     * Everything that changes one order and nothing else.
     *
     * @param int $at ms since 1970 UTC
     */
    public static function changed(DeskState $state, E\Order\OfOrder $event, int $at): void
    {
        $order = $state->orders[$event->order()] ?? null;
        if ($order === null) {
            return;
        }
        $holding = HeldPosition::of($state, $order->account, $order->contract);
        if ($event->execution() !== null) {
            $order->reported($event->execution());
        }
        match (true) {
            $event instanceof E\Order\OrderAccepted => self::accepted($order, $holding),
            $event instanceof E\Order\OrderTriggered => $order->triggered = true,
            $event instanceof E\Order\OrderReleased => $order->release($event->role, $event->quantity),
            $event instanceof E\Order\OrderExpired => $order->expire($event->because),
            $event instanceof E\Order\DurationChanged => $order->lasts($event->tif, $event->expiresAt, $event->dayEnds, $event->stays),
            $event instanceof E\Fill\OrderReduced => $order->quantity -= $event->by,
            $event instanceof E\Order\ReplaceRequested => self::replaceRequested($order, $holding, $event),
            $event instanceof E\Order\OrderReplaced => $order->replaced($event->leaves, $event->price, $event->trigger, $at),
            $event instanceof E\Order\ReplaceRefused => $order->workAgain(),
            $event instanceof E\Order\CancelRequested => self::cancelRequested($order, $holding, $event),
            $event instanceof E\Order\CancelWished => $order->cancelWished = true,
            $event instanceof E\Order\OrderCancelled => $order->become(
                $order->expiring ? OrderState::Expired : OrderState::Cancelled,
                $event->because,
            ),
            $event instanceof E\Order\OrderRejected => self::rejected($order, $holding, $event, $at),
            default => null,
        };
        self::finish($state, $order, $holding, $at);
    }

    private static function accepted(DeskOrder $order, AccountPosition $holding): void
    {
        $order->workAgain();
        unset($holding->refusedExits[self::exitKey($order)]);
    }

    private static function rejected(DeskOrder $order, AccountPosition $holding, E\Order\OrderRejected $event, int $at): void
    {
        $order->become(OrderState::Rejected, $event->because);
        if ($order->role->isExit() || $order->purpose === E\Order\Purpose::Flatten) {
            $holding->refusedExits[self::exitKey($order)] = $at;
        }
    }

    private static function replaceRequested(DeskOrder $order, AccountPosition $holding, E\Order\ReplaceRequested $event): void
    {
        $order->become(OrderState::PendingReplace);
        $order->asked = $event->lotsChange;
        $level = $order->role === Role::Stop ? $event->trigger : $event->price;
        if ($event->byHand && $order->role->isExit() && $level !== null) {
            $entry = $holding->entries[(int) $order->entry] ?? null;
            $entry?->exits->movedByHand((int) $order->portion, (int) $order->group, $order->role, $level);
            $entry?->exits->wish((int) $order->portion, (int) $order->group, $order->role, false);
            $entry?->record?->steeredByHand();
        }
    }

    private static function cancelRequested(DeskOrder $order, AccountPosition $holding, E\Order\CancelRequested $event): void
    {
        $order->become(OrderState::PendingCancel);
        $order->cancelWished = false;
        if ($event->byHand && $order->role->isExit()) {
            $entry = $holding->entries[(int) $order->entry] ?? null;
            $entry?->exits->takeOff((int) $order->portion, (int) $order->group, $order->role);
            $entry?->record?->steeredByHand();
        }
    }

    public static function tied(DeskState $state, E\Order\OrdersTied $event): void
    {
        foreach ([[$event->first, $event->second], [$event->second, $event->first]] as [$one, $other]) {
            if (isset($state->orders[$one])) {
                $state->orders[$one]->tie = new Tie($event->first, $other, $event->oco);
            }
        }
        HeldPosition::of($state, $event->account, $event->contract);
    }

    public static function untied(DeskState $state, E\Order\OrderUntied $event): void
    {
        foreach ([$event->order, $event->other] as $id) {
            if (isset($state->orders[$id])) {
                $state->orders[$id]->tie = null;
                HeldPosition::of($state, $state->orders[$id]->account, $state->orders[$id]->contract);
            }
        }
    }

    public static function finish(DeskState $state, DeskOrder $order, AccountPosition $holding, int $at): void
    {
        if ($order->state->isFinal()) {
            $order->end($at);
            unset($holding->working[$order->id], $state->orders[$order->id]);
            // Finished orders stand in the order in which they finished: the oldest of them are forgotten first.
            $state->orders[$order->id] = $order;
            $holding->forgetClosedEntries();
            if (++$state->finished > 2 * self::MAX_FINISHED) {
                self::forgetFinished($state);
            }
        }
    }

    /** Keeps the newest finished orders, and those that a working one waits for or is tied to. */
    private static function forgetFinished(DeskState $state): void
    {
        $needed = [];
        foreach ($state->holdings as $holdings) {
            foreach ($holdings as $holding) {
                foreach ($holding->working as $order) {
                    $needed[$order->tie->other ?? 0] = $needed[$order->releaseWhen->after ?? 0] = true;
                }
            }
        }
        $finished = array_keys(array_filter($state->orders, static fn(DeskOrder $o): bool => $o->state->isFinal()));
        $goes = array_slice($finished, 0, max(0, count($finished) - self::MAX_FINISHED));
        foreach ($goes as $id) {
            if (! isset($needed[$id])) {
                unset($state->orders[$id]);
            }
        }
        $state->finished = min(count($finished), self::MAX_FINISHED);
    }

    private static function exitKey(DeskOrder $order): string
    {
        return $order->purpose === E\Order\Purpose::Flatten
            ? AccountPosition::FLATTEN
            : AccountPosition::exitKey((int) $order->entry, (int) $order->portion, (int) $order->group, $order->role);
    }
}
