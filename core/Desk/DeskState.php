<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Event as E;
use Lotrik\Document\Node;
use Lotrik\ExitPlan\Basis;
use Lotrik\ExitPlan\Cover;
use Lotrik\ExitPlan\Covers;
use Lotrik\ExitPlan\EntryExits;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\PlanFault;
use Lotrik\ExitPlan\Ranges;
use Lotrik\ExitPlan\ResolvedPlan;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;

/**
 * All that the desk knows that must survive: accounts, contracts, orders, positions and exits. It changes only in
 * {@see apply()}, so that applying the journal's events again gives the same state.
 */
final class DeskState
{
    /** How many orders in a final state are kept at hand, so that a client id sent again finds its order. */
    private const FINISHED = 20_000;

    /** Number of the last event applied: the journal's sequence. */
    public int $sequence = 0;

    public int $lastOrder = 1000;

    public int $lastFill = 0;

    /** @var array<int, Account> */
    public array $accounts = [];

    /** @var array<string, Contract> */
    public array $contracts = [];

    /** @var array<int, DeskOrder> */
    public array $orders = [];

    /** @var array<int, DeskOrder> orders that wait for something, or that end at a time */
    public array $timed = [];

    /** @var array<string, array<int, Holding>> contract → account → holding */
    public array $holdings = [];

    /** @var array<int, int> account → until when it is barred from new entries, ms since 1970 UTC */
    public array $barred = [];

    /** @var array<int, DayTally> */
    public array $days = [];

    /** @var array<int, array<string, Taken>> account → client id → what was taken */
    public array $taken = [];

    public function holding(int $account, string $contract): Holding
    {
        return $this->holdings[$contract][$account] ??= new Holding($account, $contract);
    }

    public function order(int $id): DeskOrder
    {
        return $this->orders[$id];
    }

    public function isBarred(int $account, int $at): bool
    {
        return $at < ($this->barred[$account] ?? 0);
    }

    /** @param int $at ms since 1970 UTC */
    public function apply(E\Event $event, int $at): void
    {
        $this->sequence++;
        match (true) {
            $event instanceof E\AccountOpened => $this->accounts[$event->account] = Account::fromArray($event->document),
            $event instanceof E\ContractListed => $this->contracts[$event->contract] = Contract::fromNode(Node::of($event->document)),
            $event instanceof E\CommandTaken => $this->taken[$event->account][$event->clientId] = new Taken($event->op, $event->fingerprint, $event->answer),
            $event instanceof E\OrderPlaced => $this->placed($event, $at),
            $event instanceof E\OrderFilled => $this->filled($event, $at),
            $event instanceof E\StopMoved => $this->exits($event)->moved($event->portion, $event->group, $event->to),
            $event instanceof E\SteeringHandedBack => $this->exits($event)->cover($event->portion, $event->group)->stopByHand = false,
            $event instanceof E\AccountBarred => $this->barred[$event->account] = $event->until,
            $event instanceof E\ExitSet => $this->exits($event)->set($event->portion, $event->group, $event->role, $event->level),
            $event instanceof E\PlanPutOn => $this->planPutOn($event),
            $event instanceof E\OrdersTied => $this->tied($event),
            $event instanceof E\FlattenStarted => $this->flattenStarted($event),
            $event instanceof E\FlattenEnded => $this->flattenEnded($event),
            $event instanceof E\CommandRefused => null,
            default => $this->changed($event, $at),
        };
    }

    private function placed(E\OrderPlaced $event, int $at): void
    {
        $order = new DeskOrder($event, $at);
        $this->lastOrder = max($this->lastOrder, $order->id);
        $this->orders[$order->id] = $order;
        $holding = $this->holding($order->account, $order->contract);
        $holding->working[$order->id] = $order;
        $this->watchTime($order);
        $holding->sequence = $this->sequence;
        if ($order->role->isExit()) {
            $holding->exitOrders["{$order->entry}/{$order->portion}/{$order->group}/{$order->role->value}"] = $order->id;
        }
        if ($order->role === Role::Close && $holding->flattening && $event->why === Flattening::WHY) {
            $holding->flattenOrder = $order->id;
        }
    }

    /**
     * Everything that changes one order and nothing else.
     *
     * @param int $at ms since 1970 UTC
     */
    private function changed(E\Event $event, int $at): void
    {
        assert(property_exists($event, 'order') && is_int($event->order));
        $order = $this->orders[$event->order];
        match (true) {
            $event instanceof E\OrderAccepted => $order->settleState(),
            $event instanceof E\OrderTriggered => $order->triggered = true,
            $event instanceof E\OrderReleased => $order->released = true,
            $event instanceof E\OrderExpired => $this->expired($order, $event),
            $event instanceof E\DurationChanged => [$order->tif, $order->expiresAt, $order->dayEnds] = [$event->tif, $event->expiresAt, $event->dayEnds],
            $event instanceof E\OrderUntied => [$order->tie, $this->orders[$event->other]->tie] = [null, null],
            $event instanceof E\OrderReduced => $order->quantity -= $event->by,
            $event instanceof E\ReplaceRequested => $this->replaceRequested($order, $event),
            $event instanceof E\OrderReplaced => $this->replaced($order, $event, $at),
            $event instanceof E\ReplaceRefused => $order->settleState(),
            $event instanceof E\CancelRequested => $this->cancelRequested($order, $event),
            $event instanceof E\OrderCancelled => $order->become($order->expiring ? OrderState::Expired : OrderState::Cancelled, $event->because),
            $event instanceof E\OrderRejected => $order->become(OrderState::Rejected, $event->because),
            default => throw new \LogicException('an event that nobody applies: '.$event::class),
        };
        $holding = $this->holding($order->account, $order->contract);
        $holding->sequence = $this->sequence;
        $this->watchTime($order);
        $this->finish($order, $holding, $at);
    }

    private function watchTime(DeskOrder $order): void
    {
        if ($order->isTimed()) {
            $this->timed[$order->id] = $order;
        } else {
            unset($this->timed[$order->id]);
        }
    }

    private function expired(DeskOrder $order, E\OrderExpired $event): void
    {
        $order->expiring = true;
        $order->become($order->isHeld() ? OrderState::Expired : OrderState::PendingCancel, $event->because);
    }

    private function replaceRequested(DeskOrder $order, E\ReplaceRequested $event): void
    {
        $order->become(OrderState::PendingReplace);
        if ($event->byHand && $order->role->isExit()) {
            $exits = $this->exitsOf($order);
            if ($order->role === Role::Stop && $event->trigger !== null) {
                $exits->stopMovedByHand((int) $order->portion, (int) $order->group, $event->trigger);
            }
            if ($order->role === Role::Target && $event->price !== null) {
                $cover = $exits->cover((int) $order->portion, (int) $order->group);
                $cover->target = $event->price;
                $cover->targetByHand = true;
            }
        }
    }

    private function replaced(DeskOrder $order, E\OrderReplaced $event, int $at): void
    {
        if ($event->trigger !== $order->trigger) {
            $order->path[] = [$at, (int) $event->trigger];
        }
        $order->quantity = $order->filled + $event->leaves;
        $order->price = $event->price;
        $order->trigger = $event->trigger;
        $order->settleState();
    }

    private function cancelRequested(DeskOrder $order, E\CancelRequested $event): void
    {
        $order->become(OrderState::PendingCancel);
        if ($event->byHand && $order->role->isExit()) {
            $cover = $this->exitsOf($order)->cover((int) $order->portion, (int) $order->group);
            if ($order->role === Role::Stop) {
                $cover->stopTakenOff = true;
            } else {
                $cover->targetTakenOff = true;
            }
        }
    }

    private function filled(E\OrderFilled $event, int $at): void
    {
        $order = $this->orders[$event->order];
        $holding = $this->holding($order->account, $order->contract);
        $position = $holding->position;
        $realisedBefore = $position->realised;
        $closing = $position->closedBy($order->side, $event->quantity);
        $position->fill($order->side, $event->quantity, $event->price);
        $this->lastFill = max($this->lastFill, $event->fill);
        ($this->days[$order->account] ??= new DayTally())
            ->add($at, $order->contract, $position->realised->minus($realisedBefore), $event->quantity);

        $order->fill($event->quantity, $event->price);
        if ($order->role->isExit()) {
            $this->exitFilled($order, $holding, $event->quantity);
        } else {
            $this->closeFilled($order, $holding, $closing);
            if ($event->quantity > $closing) {
                $this->opened($order, $holding, $event->quantity - $closing, $event);
            }
        }
        $holding->sequence = $this->sequence;
        $this->finish($order, $holding, $at);
    }

    /** A close of one portion takes that portion's lots, any other the oldest. */
    private function closeFilled(DeskOrder $order, Holding $holding, int $lots): void
    {
        $entry = $holding->entries[$order->entry ?? 0] ?? null;
        $own = $entry === null ? 0 : min($lots, $entry->exits->cover((int) $order->portion, (int) $order->group)->lots);
        if ($own > 0) {
            $entry->exits->closed((int) $order->portion, (int) $order->group, $own);
        }
        $holding->closeByHand($lots - $own);
    }

    /** New lots join the exits of the position where a plan covers it; else they are an entry of their own. */
    private function opened(DeskOrder $order, Holding $holding, int $lots, E\OrderFilled $event): void
    {
        $position = $holding->position;
        $set = $holding->set();
        if ($set === null) {
            $plan = $this->resolve($order, $event->price);
            if ($plan->covers === Covers::Entry) {
                $entry = $holding->entries[$order->id] ??= new Entry($order->id, new EntryExits($order->side, $plan));
                $entry->exits->fill($lots, $event->price, $event->print);

                return;
            }
            $set = $holding->entries[$order->id] = new Entry($order->id, new EntryExits($order->side, $plan));
        }
        $set->isJoinedBy($order->id);
        $tightest = abs($position->lots) > $lots + $set->exits->openLots() ? $holding->tightestStop() : null;
        $joined = $set->exits->openLots();
        $holding->closeByHand(abs($position->lots) - $lots - $joined, except: $set);
        $set->exits->gather(abs($position->lots), $position->anchor(), $event->print, $tightest);
    }

    /** Lots beyond the portion's own (its cancel was still under way) come off the other exits as if closed by hand. */
    private function exitFilled(DeskOrder $order, Holding $holding, int $lots): void
    {
        $entry = $holding->entries[(int) $order->entry];
        $own = min($lots, $entry->exits->cover((int) $order->portion, (int) $order->group)->lots);
        $entry->exits->closed((int) $order->portion, (int) $order->group, $own);
        $holding->closeByHand($lots - $own);
        $entry->endsWith($order->role);
    }

    /**
     * The plan's distances become ticks once, at the first fill. A plan that had just worked when the order was sent
     * and falls under a tick at the fill's price keeps the ticks of the price it was sent with.
     */
    private function resolve(DeskOrder $order, int $tick): ResolvedPlan
    {
        if ($order->plan === null) {
            return ResolvedPlan::none();
        }
        $plan = ExitPlan::fromArray($order->plan);
        $ranges = Ranges::fromArray($order->ranges);
        try {
            return $plan->resolve($this->basis($order->account, $order->contract, $tick, $order->quantity, $ranges));
        } catch (PlanFault) {
            return $plan->resolve($this->basis($order->account, $order->contract, $order->price ?? $order->trigger ?? $tick, $order->quantity, $ranges));
        }
    }

    public function basis(int $account, string $contract, int $tick, int $quantity, ?Ranges $ranges = null): Basis
    {
        $of = $this->contracts[$contract];
        $account = $this->accounts[$account];

        return new Basis($of, $tick, $quantity, $account->rates->knows($of->currency) ? $account->rates->fromBase($account->balance, $of->currency) : null, $ranges);
    }

    private function finish(DeskOrder $order, Holding $holding, int $at): void
    {
        if ($order->state->isFinal()) {
            $order->endedAt ??= $at;
            unset($holding->working[$order->id], $this->timed[$order->id]);
            $holding->forgetClosedEntries();
            if (count($this->orders) > self::FINISHED * 2) {
                $this->forgetFinished();
            }
        }
    }

    /** Keeps the newest finished orders; older ones are read from the journal's tables. */
    private function forgetFinished(): void
    {
        $finished = array_keys(array_filter($this->orders, static fn(DeskOrder $o): bool => $o->state->isFinal()));
        foreach (array_slice($finished, 0, max(0, count($finished) - self::FINISHED)) as $id) {
            unset($this->taken[$this->orders[$id]->account][$this->orders[$id]->clientId ?? ''], $this->orders[$id]);
        }
    }

    /** The old entries give their lots up, so that their exits go; what still works of them fills under its own plan. */
    private function planPutOn(E\PlanPutOn $event): void
    {
        $holding = $this->holding($event->account, $event->contract);
        $sign = $holding->position->lots <=> 0;
        $lots = abs($holding->position->lots);
        if ($event->onlyBare) {
            $bare = $holding->bare();
            $lots = array_sum(array_map(static fn(Cover $c): int => $c->lots, $bare));
            foreach ($bare as $cover) {
                $cover->lots = 0;
            }
        } else {
            $holding->closeByHand($lots);
        }
        $anchor = $holding->position->anchor();
        $plan = $event->plan === null ? ResolvedPlan::none()
            : ExitPlan::fromArray($event->plan)->resolve($this->basis($event->account, $event->contract, $anchor, $lots, Ranges::fromArray($event->ranges)));
        $entry = $holding->entries[$event->entry] = new Entry($event->entry, new EntryExits(Side::ofPosition($sign), $plan));
        if ($plan->covers === Covers::Position) {
            $entry->exits->gather($lots, $anchor, 0);
        } else {
            $entry->exits->fill($lots, $anchor, 0);
        }
        $this->lastOrder = max($this->lastOrder, $event->entry);
        $holding->sequence = $this->sequence;
        $holding->forgetClosedEntries();
    }

    private function flattenStarted(E\FlattenStarted $event): void
    {
        $holding = $this->holding($event->account, $event->contract);
        $holding->flattening = true;
        $holding->thenEnter = $event->thenEnter;
        $holding->flattenOrder = null;
        $holding->sequence = $this->sequence;
    }

    private function flattenEnded(E\FlattenEnded $event): void
    {
        $holding = $this->holding($event->account, $event->contract);
        $holding->flattening = false;
        $holding->thenEnter = null;
        $holding->flattenOrder = null;
        $holding->sequence = $this->sequence;
    }

    private function tied(E\OrdersTied $event): void
    {
        $this->orders[$event->first]->tie = new Tie($event->first, $event->second, $event->oco);
        $this->orders[$event->second]->tie = new Tie($event->first, $event->first, $event->oco);
        $this->holding($event->account, $event->contract)->sequence = $this->sequence;
    }

    /** The exits that an event is about; it counts as a change of what the account has in the contract. */
    private function exits(E\StopMoved|E\SteeringHandedBack|E\ExitSet $event): EntryExits
    {
        $this->holding($event->account, $event->contract)->sequence = $this->sequence;

        return $this->entry($event->account, $event->contract, $event->entry)->exits;
    }

    private function entry(int $account, string $contract, int $entry): Entry
    {
        return $this->holding($account, $contract)->entries[$entry];
    }

    private function exitsOf(DeskOrder $order): EntryExits
    {
        return $this->entry($order->account, $order->contract, (int) $order->entry)->exits;
    }
}
