<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Event as E;
use Lotrik\Desk\Event\EventRecorder;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Order\OrderState;
use Lotrik\Venue\VenueSnapshot;
use Lotrik\Venue\WorkingOrder;

/**
 * After a lost line or a start: what the venue holds against what the desk believes. Of what works, the venue is right.
 *
 * Source: FIX 4.4, order mass status request after a logon; what is done about each difference is common practice, no source.
 */
final class Reconciliation
{
    public const LOST = 'the venue did not have it any more when the line to it was back';

    public function __construct(private readonly EventRecorder $recorder) {}

    /** @param array<int, true> $underWay orders of which something is on its way: they are not compared */
    public function of(string $contract, VenueSnapshot $venue, array $underWay): void
    {
        $state = $this->recorder->state;
        $known = [];
        foreach ($state->holdings[$contract] ?? [] as $account => $holding) {
            foreach ($holding->working as $order) {
                $known[$order->id] = true;
                if (! $order->isHeld() && ! isset($underWay[$order->id])) {
                    $this->compare($order, $venue->working[$order->id] ?? null);
                }
            }
            $there = $venue->positions[$account] ?? 0;
            if ($underWay === [] && $there !== $holding->position->lots) {
                $this->recorder->note(new E\Venue\VenueDiffers($account, $contract, null, $there, $holding->position->lots));
            }
        }
        foreach (array_diff_key($venue->working, $known, $underWay) as $stray) {
            $this->recorder->note(new E\Venue\StrayOrderFound($stray->account, $contract, $stray->id, $stray->lots));
        }
    }

    private function compare(DeskOrder $order, ?WorkingOrder $there): void
    {
        if ($there === null) {
            $this->recorder->note(new E\Order\OrderCancelled($order->id, self::LOST));

            return;
        }
        if ($there->filled > $order->filled) {
            $this->recorder->note(new E\Venue\VenueDiffers($order->account, $order->contract, $order->id, $there->filled, $order->filled));
        }
        if ($there->triggered && ! $order->triggered) {
            $this->recorder->note(new E\Order\OrderTriggered($order->id));
        }
        $asThere = $order->leaves() === $there->lots && $order->price === $there->price && $order->trigger === $there->trigger;
        if (! $asThere || $order->state === OrderState::PendingNew || $order->state === OrderState::PendingReplace) {
            $this->recorder->note(new E\Order\OrderReplaced($order->id, $there->lots, $there->price, $there->trigger));
        }
        if ($order->state === OrderState::PendingCancel) {
            $this->recorder->note(new E\Order\CancelRequested($order->id, (string) $order->reason));
        }
    }
}
