<?php

declare(strict_types=1);

namespace Lotrik\Desk\State;

use Lotrik\Desk\Account\DayTally;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\ClosedBy;
use Lotrik\Desk\Position\Closing;
use Lotrik\Desk\Position\Entry;
use Lotrik\Desk\Position\EntryRecord;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\Open\EntryExits;
use Lotrik\ExitPlan\PlanScope;
use Lotrik\Money\Fraction;

/** What a fill does to the position, its entries and the day of its account. */
final class FillEvents
{
    public static function filled(DeskState $state, E\Fill\OrderFilled $event, int $at): void
    {
        $order = $state->orders[$event->order] ?? null;
        if ($order === null) {
            return;
        }
        $holding = HeldPosition::of($state, $order->account, $order->contract);
        $position = $holding->position;
        $realisedBefore = $position->realised;
        $position->fill($order->side, $event->quantity, $event->price);
        $state->lastFill = max($state->lastFill, $event->fill);
        $made = $position->realised->minus($realisedBefore);
        $book = $state->bookOf($order->account);
        $ticks = Fraction::of($made);
        $book->day->add($state->dayOf($order->account, $at), $order->contract, $ticks, $event->quantity, $event->closes);
        $book->made->add(DayTally::ALL, $order->contract, $ticks, $event->quantity);
        $holding->traded($made, $event->quantity - $event->closes, $event->closes);

        $order->fill($event->quantity, $event->price);
        if ($event->execution !== null) {
            $order->reported($event->execution);
        }
        if ($event->closes > 0) {
            self::closes($order, $holding, $event, $at);
        }
        if ($event->quantity > $event->closes) {
            self::opens($order, $holding, $event, $at);
        }
        OrderEvents::finish($state, $order, $holding, $at);
    }

    /** An exit, or a close of one portion, takes that portion's lots; what it has not comes off the oldest entry first. */
    private static function closes(DeskOrder $order, AccountPosition $holding, E\Fill\OrderFilled $event, int $at): void
    {
        $by = new Closing($event->price, $at, ClosedBy::order($order), $event->slippageTicks);
        $entry = $holding->entries[$order->entry ?? 0] ?? null;
        $left = $entry === null ? $event->closes : $entry->close($event->closes, $by, (int) $order->portion, (int) $order->group);
        $holding->closeByHand($left, $by);
        if ($order->role->isExit()) {
            $entry?->endsWith($order->role);
        }
    }

    /** New lots join the exits of the position where a plan covers it; else they are an entry of their own. */
    private static function opens(DeskOrder $order, AccountPosition $holding, E\Fill\OrderFilled $event, int $at): void
    {
        $lots = $event->quantity - $event->closes;
        $entry = $holding->entries[$event->joins ?? $order->id] ??= self::newEntry($order, $event);
        if ($entry->exits->plan->covers === PlanScope::Entry) {
            $entry->exits->fill($lots, $event->price, $event->print);
        } else {
            $entry->isJoinedBy($order->id);
            $holding->gatherInto($entry);
            $entry->exits->gather(abs($holding->position->lots), $holding->position->anchor(), $event->print, $event->notLooser);
        }
        $entry->record?->opened($lots, $event->price, $event->slippageTicks, $at);
        $entry->noteRisk();
    }

    private static function newEntry(DeskOrder $order, E\Fill\OrderFilled $event): Entry
    {
        $plan = $event->exits === null ? ResolvedPlan::none() : ResolvedPlan::fromArray($event->exits);

        return new Entry(
            $order->id,
            new EntryExits($order->side, $plan),
            $event->touch === null ? null : new EntryRecord($order->side, $plan->name, $order->planVersion),
        );
    }
}
