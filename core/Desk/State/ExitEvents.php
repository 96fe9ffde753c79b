<?php

declare(strict_types=1);

namespace Lotrik\Desk\State;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Flatten\ClosingDown;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Flatten\ReversalEntry;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\Entry;
use Lotrik\Desk\Position\EntryRecord;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\Open\EntryExits;
use Lotrik\ExitPlan\PlanScope;
use Lotrik\Order\Side;

/** Exits as the plan, the trader's hand and a flatten change them. */
final class ExitEvents
{
    public static function stopMoved(DeskState $state, E\Exit\StopMoved $event, int $at): void
    {
        $entry = self::entry($state, $event);
        $entry?->exits->moved($event->portion, $event->group, $event->to);
        $entry?->record?->ratcheted($event->portion, $event->because, $event->best, $event->to, $at);
    }

    /** The old exits give their lots up; what still works of their entries fills under its own plan. */
    public static function planPutOn(DeskState $state, E\Exit\PlanPutOn $event, int $at): void
    {
        $holding = HeldPosition::of($state, $event->account, $event->contract);
        $side = Side::ofPosition($holding->position->lots);
        $plan = ResolvedPlan::fromArray($event->exits);
        $entry = new Entry($event->entry, new EntryExits($side, $plan), new EntryRecord($side, $plan->name, $event->planVersion));
        $lots = 0;
        foreach ($event->takes as [$from, $portion, $group, $taken]) {
            ($holding->entries[$from] ?? null)?->handOver($portion, $group, $taken, $entry);
            $lots += $taken;
        }
        $holding->entries[$event->entry] = $entry;
        if ($plan->covers === PlanScope::Position) {
            $entry->exits->gather($lots, $event->anchor, 0);
        } else {
            $entry->exits->fill($lots, $event->anchor, 0);
        }
        foreach ($event->keeps as $portion => $tick) {
            $entry->exits->keepStop($portion, $tick);
        }
        $entry->noteRisk();
        $state->lastOrder = max($state->lastOrder, $event->entry);
        $holding->forgetClosedEntries();
    }

    /** The one that was taken off may still be on its way: it takes the level, and by hand. */
    public static function exitSet(DeskState $state, E\Exit\ExitSet $event): void
    {
        $exits = self::exitByHand($state, $event);
        $exits?->setLevel($event->portion, $event->group, $event->role, $event->level);
        $holding = HeldPosition::of($state, $event->account, $event->contract);
        if ($holding->exitOrder($event->entry, $event->portion, $event->group, $event->role) !== null) {
            $exits?->wish($event->portion, $event->group, $event->role, true);
        }
    }

    public static function exitByHand(DeskState $state, E\Exit\ExitSet|E\Exit\ExitMoved|E\Exit\ExitTakenOff $event): ?EntryExits
    {
        $entry = self::entry($state, $event);
        $entry?->record?->steeredByHand();

        return $entry?->exits;
    }

    public static function entry(
        DeskState $state,
        E\Exit\StopMoved|E\Exit\SteeringHandedBack|E\Exit\ExitSet|E\Exit\ExitMoved|E\Exit\ExitTakenOff $event,
    ): ?Entry {
        return HeldPosition::of($state, $event->account, $event->contract)->entries[$event->entry] ?? null;
    }

    public static function closeDown(
        DeskState $state,
        E\Command\FlattenStarted|E\Command\FlattenEnded $event,
        ClosingTrigger $trigger,
        ?ReversalEntry $then,
    ): void {
        $holding = HeldPosition::of($state, $event->account, $event->contract);
        $holding->closing = $holding->closing->on($trigger);
        $holding->thenEnter = $holding->closing === ClosingDown::Reversing ? $then ?? $holding->thenEnter : null;
        if (! $holding->isClosingDown()) {
            $holding->flattenOrder = null;
            unset($holding->refusedExits[AccountPosition::FLATTEN]);
        }
    }

    public static function entryClosed(DeskState $state, E\Exit\EntryClosed $event): void
    {
        unset(HeldPosition::of($state, $event->account, $event->contract)->closed[$event->entry]);
    }
}
