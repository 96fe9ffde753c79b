<?php

declare(strict_types=1);

namespace Lotrik\Desk\Upkeep;

use Lotrik\Desk\Event\EventRecorder;
use Lotrik\Desk\Event\Exit\StopMoved;
use Lotrik\Desk\Event\Order\CancelRequested;
use Lotrik\Desk\Event\Order\OrderPlaced;
use Lotrik\Desk\Event\Order\Purpose;
use Lotrik\Desk\Event\Order\ReplaceRequested;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\Entry;
use Lotrik\Desk\Quote;
use Lotrik\ExitPlan\Open\ExitSlot;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;

/**
 * Makes the working exits what they should be: compares each portion's stop and target with the orders that stand
 * for them and places, changes or cancels the difference. It looks only at the state, so running it again, after a
 * kill too, does nothing that is not needed.
 */
final class ExitKeeper
{
    public function __construct(private readonly EventRecorder $recorder) {}

    /** Moves the stops whose ratchets are due. */
    public function ratchet(AccountPosition $holding): void
    {
        foreach ($holding->entries as $entry) {
            foreach ($entry->exits->dueMoves() as $move) {
                $this->recorder->note(new StopMoved(
                    $holding->account, $holding->contract, $entry->order, $move->portion, $move->group, $move->from, $move->to,
                    $move->because, $move->best,
                ));
            }
        }
    }

    public function reconcile(AccountPosition $holding, Quote $quote): void
    {
        foreach ($holding->entries as $entry) {
            foreach ($entry->ended as $id) {
                $working = $holding->working[$id] ?? null;
                if ($working !== null && ! $working->state->isPending()) {
                    $this->recorder->cancel($working, 'an exit of this entry has filled');
                }
            }
            foreach ($entry->exits->slots() as $slot) {
                $this->keepStop($holding, $entry, $slot, $quote);
                $this->keepTarget($holding, $entry, $slot);
            }
        }
    }

    private function keepStop(AccountPosition $holding, Entry $entry, ExitSlot $slot, Quote $quote): void
    {
        $lots = $slot->wantsStop() ? $slot->lots : 0;
        $trigger = (int) $slot->stop;
        $limit = $slot->portion->stop?->limitTicks;
        $price = $limit === null ? null : $trigger - $entry->exits->side->sign() * $limit;
        $order = $holding->exitOrder($entry->order, $slot->portion->number, $slot->group, Role::Stop);
        if ($order === null) {
            if ($lots > 0) {
                $passed = $quote->isPassed($entry->exits->side->opposite(), $trigger);
                $why = "stop of portion {$slot->portion->number}".($passed ? ', already passed by the market: closes now' : '');
                $this->place(
                    $holding, $entry, $slot, Role::Stop, $limit === null ? OrderKind::Stop : OrderKind::StopLimit, $lots, $price, $trigger,
                    $why,
                );
            }

            return;
        }
        $moves = ! $order->triggered && $order->trigger !== $trigger;
        $passed = $moves && $quote->isPassed($order->side, $trigger) ? ', already passed by the market: closes now' : '';
        $this->change($order, $lots, $moves ? $price : null, $moves ? $trigger : null, $passed, $slot->stopTakenOff, $slot->stopWished);
    }

    private function keepTarget(AccountPosition $holding, Entry $entry, ExitSlot $slot): void
    {
        $lots = $slot->wantsTarget() && ! $holding->isClosingDown() ? $slot->lots : 0;
        $price = (int) $slot->target;
        $order = $holding->exitOrder($entry->order, $slot->portion->number, $slot->group, Role::Target);
        if ($order !== null) {
            $this->change($order, $lots, $order->price !== $price ? $price : null, null, '', $slot->targetTakenOff, $slot->targetWished);
        } elseif ($lots > 0) {
            $this->place(
                $holding, $entry, $slot, Role::Target, OrderKind::Limit, $lots, $price, null, "target of portion {$slot->portion->number}",
            );
        }
    }

    private function place(
        AccountPosition $holding,
        Entry $entry,
        ExitSlot $slot,
        Role $role,
        OrderKind $kind,
        int $lots,
        ?int $price,
        ?int $trigger,
        string $why,
    ): void {
        if ($holding->wasJustRefused(
            AccountPosition::exitKey($entry->order, $slot->portion->number, $slot->group, $role),
            $this->recorder->at,
        )) {
            return;
        }
        $this->recorder->note(new OrderPlaced(
            $this->recorder->state->lastOrder + 1, $holding->account, $holding->contract, null, $entry->exits->side->opposite(), $kind,
            $lots,
            $price, $trigger, TimeInForce::GoodTillCancelled, $role, Purpose::Exit,
            $entry->exits->plan->name === null ? $why : "{$entry->exits->plan->name}, $why",
            null, $entry->order, $slot->portion->number, $slot->group,
        ));
    }

    /** An order with a command under way is left alone: the answer brings us here again. */
    private function change(DeskOrder $order, int $lots, ?int $price, ?int $trigger, string $note, bool $takenOff, bool $wished): void
    {
        if ($order->state->isPending()) {
            return;
        }
        if ($lots === 0) {
            $this->recorder->note(new CancelRequested(
                $order->id,
                $takenOff ? 'by hand, once the venue had answered' : 'its lots have closed',
            ));
        } elseif ($order->leaves() !== $lots || $price !== null || $trigger !== null) {
            $why = match (true) {
                ($trigger !== null || $price !== null) && $wished => 'by hand, once the venue had answered',
                $trigger !== null || $price !== null => 'it follows its plan',
                $order->leaves() < $lots => 'more of its entry has filled',
                default => 'some of its lots have closed',
            };
            $this->recorder->note(new ReplaceRequested($order->id, $lots - $order->leaves(), $price, $trigger, $why.$note, $wished));
        }
    }
}
