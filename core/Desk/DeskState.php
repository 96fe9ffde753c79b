<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Brick\Math\BigRational;
use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\ClosedBy;
use Lotrik\Desk\Account\Closing;
use Lotrik\Desk\Account\ClosingDown;
use Lotrik\Desk\Account\ClosingTrigger;
use Lotrik\Desk\Account\DayTally;
use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\Account\Entry;
use Lotrik\Desk\Account\EntryFacts;
use Lotrik\Desk\Account\ReversalEntry;
use Lotrik\Desk\Account\Tie;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Steps\Step;
use Lotrik\Desk\Steps\StepsUnderWay;
use Lotrik\ExitPlan\InTicks\ResolvedPlan;
use Lotrik\ExitPlan\Open\EntryExits;
use Lotrik\ExitPlan\PlanScope;
use Lotrik\Order\OrderState;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Risk\Limits\AccountDay;
use Lotrik\Watching\Levels\MarkedLevel;
use Lotrik\Watching\Levels\WatchedLevel;

/**
 * All that the desk knows that must survive: accounts, contracts, orders, positions and exits. It changes only in
 * {@see apply()}, so that applying the journal's events again gives the same state. Applying never throws, never
 * decides, and looks nothing up that the event does not carry; reading never changes anything.
 */
final class DeskState
{
    private const MINUTE = 60_000;

    /** on which days the venue trades otherwise than its sessions say */
    public ?Calendar $calendar = null;

    /** How many orders in a final state are kept at hand; older ones are read from the journal's tables. */
    private const MAX_FINISHED = 1_000;

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

    /** @var array<string, array<int, AccountPosition>> contract → account → holding; see {@see holding()} */
    public array $holdings = [];

    /** @var array<int, true> numbers of accounts that are only read */
    public array $closed = [];

    /** @var array<int, int> account → until when it is barred from new entries, ms since 1970 UTC */
    public array $barred = [];

    /** @var array<int, string> account → the limit that it was last barred for, in words */
    public array $barredFor = [];

    /** @var array<int, array{array<string, mixed>, int}> account → limits that will be in force, and from when, ms since 1970 UTC */
    public array $limitsNext = [];

    /** @var array<int, array{int, string}> account → until when a limit keeps it from new entries, ms since 1970 UTC, and which one */
    public array $entriesStopped = [];

    /** @var array<int, array{int, int}> account → begin of its trading day, and how many trades were lost in a row up to now in it */
    public array $losses = [];

    /** @var array<int, array<string, array{int, int}>> account → limit → begin of the day, and the percentage that was told last */
    public array $neared = [];

    /** @var array<string, array<int, array{int, int}>> contract → account → the close that was told of last, ms since 1970 UTC, and how many minutes before it */
    public array $closeTold = [];

    /** @var array<int, list<int>> account → when its newest entries were sent, ms since 1970 UTC, oldest first */
    public array $entriesSent = [];

    /** @var array<int, DayTally> */
    public array $days = [];

    /** @var array<int, DayTally> account → all that it has made and paid since it was opened */
    public array $made = [];

    /** @var array<string, array<int, array<int, WatchedLevel>>> contract → account → number → level that is watched */
    public array $levels = [];

    /** @var array<int, int> account → ticks from which on the market counts as near to its levels */
    public array $levelsWithin = [];

    public readonly HandledCommands $handled;

    private int $finished = 0;

    public function __construct()
    {
        $this->handled = new HandledCommands();
    }

    /** What an account has in a contract; where that is nothing yet, a blank one that is not kept. */
    public function holding(int $account, string $contract): AccountPosition
    {
        return $this->holdings[$contract][$account] ?? new AccountPosition($account, $contract);
    }

    /** @return list<AccountPosition> what an account has, in the order in which contracts were listed: no other account has a part in it */
    public function holdingsOf(int $account): array
    {
        $of = [];
        foreach (array_keys($this->contracts) as $contract) {
            if (isset($this->holdings[$contract][$account])) {
                $of[] = $this->holdings[$contract][$account];
            }
        }

        return $of;
    }

    public function order(int $id): DeskOrder
    {
        return $this->orders[$id];
    }

    public function isBarred(int $account, int $at): bool
    {
        return $at < ($this->barred[$account] ?? 0);
    }

    public function isClosed(int $account): bool
    {
        return isset($this->closed[$account]);
    }

    private function calendarSet(Calendar $calendar): void
    {
        $this->calendar = $calendar;
        $this->contracts = array_map(static fn(Contract $contract): Contract => $contract->under($calendar), $this->contracts);
    }

    /** @param int $at ms since 1970 UTC */
    public function apply(E\Event $event, int $at): void
    {
        $this->sequence++;
        match (true) {
            $event instanceof E\AccountOpened => $this->accountOpened($event),
            $event instanceof E\ContractListed => $this->contracts[$event->contract] = Contract::fromArray($event->document)
                ->under($this->calendar ?? Calendar::none()),
            $event instanceof E\CalendarSet => $this->calendarSet(Calendar::fromArray($event->calendar)),
            $event instanceof E\CommandTaken => $this->handled->add(
                $event->account,
                $event->clientId,
                new HandledCommand($event->op, $event->fingerprint, $event->answer),
            ),
            $event instanceof E\OrderPlaced => $this->placed($event, $at),
            $event instanceof E\OrderFilled => $this->filled($event, $at),
            $event instanceof E\StopMoved => $this->stopMoved($event, $at),
            $event instanceof E\SteeringHandedBack => $this->entry($event)?->exits->handBack($event->portion, $event->group),
            $event instanceof E\AccountClosed => $this->accountClosed($event),
            $event instanceof E\RatesSet => $this->accounts[$event->account] = Account::fromArray(
                ['rates' => $event->rates] + $this->accounts[$event->account]->document,
            ),
            $event instanceof E\LimitsSet => $this->limitsSet($event),
            $event instanceof E\AccountBarred => $this->accountBarred($event),
            $event instanceof E\EntriesStopped => $this->stopEntries($event),
            $event instanceof E\CloseNear => $this->closeTold[$event->contract][$event->account] = [$event->closes, $event->minutes],
            $event instanceof E\TradeEnded => $this->tradeEnded($event),
            $event instanceof E\DayBegun => $this->dayBegun($event),
            $event instanceof E\LimitNeared => $this->neared[$event->account][$event->limit] = [$event->day, $event->percent],
            $event instanceof E\ExitSet => $this->exitSet($event),
            $event instanceof E\ExitMoved => $this->exitByHand($event)?->wishedByHand(
                $event->portion,
                $event->group,
                $event->role,
                $event->level,
            ),
            $event instanceof E\ExitTakenOff => $this->exitByHand($event)?->takeOff($event->portion, $event->group, $event->role),
            $event instanceof E\PlanPutOn => $this->planPutOn($event, $at),
            $event instanceof E\OrdersTied => $this->tied($event),
            $event instanceof E\OrderUntied => $this->untied($event),
            $event instanceof E\FlattenStarted => $this->closeDown(
                $event,
                $event->trigger,
                $event->thenEnter === null ? null : ReversalEntry::fromArray($event->thenEnter),
            ),
            $event instanceof E\FlattenEnded => $this->closeDown($event, ClosingTrigger::Flat, null),
            $event instanceof E\EntryClosed => $this->entryClosed($event),
            $event instanceof E\StepsBegun => $this->held($event->account, $event->contract)->steps = new StepsUnderWay(
                $event->name,
                $event->clientId,
                array_map(Step::fromArray(...), $event->steps),
                $at,
            ),
            $event instanceof E\StepTaken => $this->held($event->account, $event->contract)->steps?->took($event->lotsBefore, $event->placed),
            $event instanceof E\StepsDone, $event instanceof E\StepsStopped => $this->held($event->account, $event->contract)->steps = null,
            $event instanceof E\LevelsWatched => $this->levelsWatched($event),
            $event instanceof E\LevelTold => ($this->levels[$event->contract][$event->account][$event->level] ?? null)?->told($event->news, $at),
            $event instanceof E\CommandRefused, $event instanceof E\ReversalDropped, $event instanceof E\ReportOutOfPlace,
            $event instanceof E\VenueDiffers, $event instanceof E\StrayOrderFound => null,
            $event instanceof E\OfOrder => $this->changed($event, $at),
            default => null,
        };
    }

    private function accountOpened(E\AccountOpened $event): void
    {
        $this->accounts[$event->account] = Account::fromArray($event->document);
        if ($event->barred !== null) {
            [$this->barred[$event->account], , $this->barredFor[$event->account]] = $event->barred;
        }
        if ($event->stopped !== null) {
            $this->entriesStopped[$event->account] = $event->stopped;
        }
        if ($event->losses !== null) {
            $this->losses[$event->account] = $event->losses;
        }
    }

    private function stopEntries(E\EntriesStopped $event): void
    {
        $this->entriesStopped[$event->account] = [$event->until, $event->because];
        if ($event->contract !== null) {
            $holding = $this->held($event->account, $event->contract);
            $holding->paused = $holding->trade;
        }
    }

    private function accountClosed(E\AccountClosed $event): void
    {
        $this->closed[$event->account] = true;
        unset($this->limitsNext[$event->account]);
    }

    private function limitsSet(E\LimitsSet $event): void
    {
        $this->accounts[$event->account] = Account::fromArray(
            ['limits' => $event->limits, 'day_since' => $event->since] + $this->accounts[$event->account]->document,
        );
        if ($event->next === null || $event->from === null) {
            unset($this->limitsNext[$event->account]);
        } else {
            $this->limitsNext[$event->account] = [$event->next, $event->from];
        }
    }

    private function accountBarred(E\AccountBarred $event): void
    {
        $this->barred[$event->account] = $event->until;
        $this->barredFor[$event->account] = $event->limit;
    }

    private function dayBegun(E\DayBegun $event): void
    {
        ($this->days[$event->account] ??= new DayTally())->begin($event->day, array_map(
            static fn(array $of): array => [BigRational::of($of[0]), $of[1]],
            $event->carried,
        ));
    }

    private function tradeEnded(E\TradeEnded $event): void
    {
        $holding = $this->held($event->account, $event->contract);
        array_shift($holding->endedTrades);
        [$day, $lost] = $this->losses[$event->account] ?? [0, 0];
        $this->losses[$event->account] = [$event->day, $event->isLoss ? ($day === $event->day ? $lost : 0) + 1 : 0];
    }

    /** The account's part in a contract, made where there is none: only an event does that. */
    private function held(int $account, string $contract): AccountPosition
    {
        $holding = $this->holdings[$contract][$account] ??= new AccountPosition($account, $contract);
        $holding->sequence = $this->sequence;

        return $holding;
    }

    private function placed(E\OrderPlaced $event, int $at): void
    {
        $order = new DeskOrder($event, $at);
        $this->lastOrder = max($this->lastOrder, $order->id);
        $this->orders[$order->id] = $order;
        $holding = $this->held($order->account, $order->contract);
        $holding->working[$order->id] = $order;
        if ($order->role->isExit()) {
            $holding->exitOrders[self::exitKey($order)] = $order->id;
        }
        if ($order->purpose === E\Purpose::Flatten && $holding->isClosingDown()) {
            $holding->flattenOrder = $order->id;
        }
        if ($order->role === Role::Entry) {
            $this->entriesSent[$order->account] = [
                ...array_filter($this->entriesSent[$order->account] ?? [], static fn(int $sent): bool => $sent > $at - self::MINUTE),
                $at,
            ];
        }
    }

    private static function exitKey(DeskOrder $order): string
    {
        return $order->purpose === E\Purpose::Flatten
            ? AccountPosition::FLATTEN
            : AccountPosition::exitKey((int) $order->entry, (int) $order->portion, (int) $order->group, $order->role);
    }

    /**
     * Everything that changes one order and nothing else.
     *
     * @param int $at ms since 1970 UTC
     */
    private function changed(E\OfOrder $event, int $at): void
    {
        $order = $this->orders[$event->order()] ?? null;
        if ($order === null) {
            return;
        }
        $holding = $this->held($order->account, $order->contract);
        if ($event->execution() !== null) {
            $order->reported($event->execution());
        }
        match (true) {
            $event instanceof E\OrderAccepted => $this->accepted($order, $holding),
            $event instanceof E\OrderTriggered => $order->triggered = true,
            $event instanceof E\OrderReleased => $order->release($event->role, $event->quantity),
            $event instanceof E\OrderExpired => $order->expire($event->because),
            $event instanceof E\DurationChanged => $order->lasts($event->tif, $event->expiresAt, $event->dayEnds, $event->stays),
            $event instanceof E\OrderReduced => $order->quantity -= $event->by,
            $event instanceof E\ReplaceRequested => $this->replaceRequested($order, $holding, $event),
            $event instanceof E\OrderReplaced => $order->replaced($event->leaves, $event->price, $event->trigger, $at),
            $event instanceof E\ReplaceRefused => $order->settleState(),
            $event instanceof E\CancelRequested => $this->cancelRequested($order, $holding, $event),
            $event instanceof E\CancelWished => $order->cancelWished = true,
            $event instanceof E\OrderCancelled => $order->become(
                $order->expiring ? OrderState::Expired : OrderState::Cancelled,
                $event->because,
            ),
            $event instanceof E\OrderRejected => $this->rejected($order, $holding, $event, $at),
            default => null,
        };
        $this->finish($order, $holding, $at);
    }

    private function accepted(DeskOrder $order, AccountPosition $holding): void
    {
        $order->settleState();
        unset($holding->refusedExits[self::exitKey($order)]);
    }

    private function rejected(DeskOrder $order, AccountPosition $holding, E\OrderRejected $event, int $at): void
    {
        $order->become(OrderState::Rejected, $event->because);
        if ($order->role->isExit() || $order->purpose === E\Purpose::Flatten) {
            $holding->refusedExits[self::exitKey($order)] = $at;
        }
    }

    private function replaceRequested(DeskOrder $order, AccountPosition $holding, E\ReplaceRequested $event): void
    {
        $order->become(OrderState::PendingReplace);
        $order->asked = $event->lotsChange;
        $level = $order->role === Role::Stop ? $event->trigger : $event->price;
        if ($event->byHand && $order->role->isExit() && $level !== null) {
            $entry = $holding->entries[(int) $order->entry] ?? null;
            $entry?->exits->movedByHand((int) $order->portion, (int) $order->group, $order->role, $level);
            $entry?->exits->wish((int) $order->portion, (int) $order->group, $order->role, false);
            $entry?->facts?->steeredByHand();
        }
    }

    private function cancelRequested(DeskOrder $order, AccountPosition $holding, E\CancelRequested $event): void
    {
        $order->become(OrderState::PendingCancel);
        $order->cancelWished = false;
        if ($event->byHand && $order->role->isExit()) {
            $entry = $holding->entries[(int) $order->entry] ?? null;
            $entry?->exits->takeOff((int) $order->portion, (int) $order->group, $order->role);
            $entry?->facts?->steeredByHand();
        }
    }

    private function filled(E\OrderFilled $event, int $at): void
    {
        $order = $this->orders[$event->order] ?? null;
        if ($order === null) {
            return;
        }
        $holding = $this->held($order->account, $order->contract);
        $position = $holding->position;
        $realisedBefore = $position->realised;
        $position->fill($order->side, $event->quantity, $event->price);
        $this->lastFill = max($this->lastFill, $event->fill);
        $made = $position->realised->minus($realisedBefore);
        ($this->days[$order->account] ??= new DayTally())
            ->add($this->dayOf($order->account, $at), $order->contract, $made, $event->quantity, $event->closes);
        ($this->made[$order->account] ??= new DayTally())->add(DayTally::ALL, $order->contract, $made, $event->quantity);
        $holding->traded($made, $event->quantity - $event->closes, $event->closes);

        $order->fill($event->quantity, $event->price);
        if ($event->execution !== null) {
            $order->reported($event->execution);
        }
        if ($event->closes > 0) {
            $this->closes($order, $holding, $event, $at);
        }
        if ($event->quantity > $event->closes) {
            $this->opens($order, $holding, $event, $at);
        }
        $this->finish($order, $holding, $at);
    }

    /** When the trading day of an account began that a moment lies in, ms since 1970 UTC. */
    public function dayOf(int $account, int $at): int
    {
        return (($this->accounts[$account] ?? null)?->limits->day ?? AccountDay::utc())->begins($at);
    }

    /** An exit, or a close of one portion, takes that portion's lots; what it has not comes off the oldest entry first. */
    private function closes(DeskOrder $order, AccountPosition $holding, E\OrderFilled $event, int $at): void
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
    private function opens(DeskOrder $order, AccountPosition $holding, E\OrderFilled $event, int $at): void
    {
        $lots = $event->quantity - $event->closes;
        $entry = $holding->entries[$event->joins ?? $order->id] ??= $this->newEntry($order, $event);
        if ($entry->exits->plan->covers === PlanScope::Entry) {
            $entry->exits->fill($lots, $event->price, $event->print);
        } else {
            $entry->isJoinedBy($order->id);
            $holding->gatherInto($entry);
            $entry->exits->gather(abs($holding->position->lots), $holding->position->anchor(), $event->print, $event->notLooser);
        }
        $entry->facts?->opened($lots, $event->price, $event->slippageTicks, $at);
        $entry->noteRisk();
    }

    private function newEntry(DeskOrder $order, E\OrderFilled $event): Entry
    {
        $plan = $event->exits === null ? ResolvedPlan::none() : ResolvedPlan::fromArray($event->exits);

        return new Entry(
            $order->id,
            new EntryExits($order->side, $plan),
            $event->touch === null ? null : new EntryFacts($order->side, $plan->name, $order->planVersion),
        );
    }

    private function finish(DeskOrder $order, AccountPosition $holding, int $at): void
    {
        if ($order->state->isFinal()) {
            $order->end($at);
            unset($holding->working[$order->id], $this->orders[$order->id]);
            // Finished orders stand in the order in which they finished: the oldest of them are forgotten first.
            $this->orders[$order->id] = $order;
            $holding->forgetClosedEntries();
            if (++$this->finished > 2 * self::MAX_FINISHED) {
                $this->forgetFinished();
            }
        }
    }

    /** Keeps the newest finished orders, and those that a working one waits for or is tied to. */
    private function forgetFinished(): void
    {
        $needed = [];
        foreach ($this->holdings as $holdings) {
            foreach ($holdings as $holding) {
                foreach ($holding->working as $order) {
                    $needed[$order->tie->other ?? 0] = $needed[$order->releaseWhen->after ?? 0] = true;
                }
            }
        }
        $finished = array_keys(array_filter($this->orders, static fn(DeskOrder $o): bool => $o->state->isFinal()));
        $goes = array_slice($finished, 0, max(0, count($finished) - self::MAX_FINISHED));
        foreach ($goes as $id) {
            if (! isset($needed[$id])) {
                unset($this->orders[$id]);
            }
        }
        $this->finished = min(count($finished), self::MAX_FINISHED);
    }

    private function stopMoved(E\StopMoved $event, int $at): void
    {
        $entry = $this->entry($event);
        $entry?->exits->moved($event->portion, $event->group, $event->to);
        $entry?->facts?->ratcheted($event->portion, $event->because, $event->best, $event->to, $at);
    }

    /** The old exits give their lots up; what still works of their entries fills under its own plan. */
    private function planPutOn(E\PlanPutOn $event, int $at): void
    {
        $holding = $this->held($event->account, $event->contract);
        $side = Side::ofPosition($holding->position->lots);
        $plan = ResolvedPlan::fromArray($event->exits);
        $entry = new Entry($event->entry, new EntryExits($side, $plan), new EntryFacts($side, $plan->name, $event->planVersion));
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
        $this->lastOrder = max($this->lastOrder, $event->entry);
        $holding->forgetClosedEntries();
    }

    private function closeDown(E\FlattenStarted|E\FlattenEnded $event, ClosingTrigger $trigger, ?ReversalEntry $then): void
    {
        $holding = $this->held($event->account, $event->contract);
        $holding->closing = $holding->closing->on($trigger);
        $holding->thenEnter = $holding->closing === ClosingDown::Reversing ? $then ?? $holding->thenEnter : null;
        if (! $holding->isClosingDown()) {
            $holding->flattenOrder = null;
            unset($holding->refusedExits[AccountPosition::FLATTEN]);
        }
    }

    /** What has been told of a level that stays as it is counts on. */
    private function levelsWatched(E\LevelsWatched $event): void
    {
        $this->levelsWithin[$event->account] = $event->within;
        $before = [];
        foreach ($this->levels as $code => $accounts) {
            $before[$code] = $accounts[$event->account] ?? [];
            unset($this->levels[$code][$event->account]);
        }
        foreach ($event->levels as $packed) {
            $level = new WatchedLevel(
                $packed['id'],
                $packed['name'],
                new MarkedLevel($packed['low'], $packed['high'], 0),
                $event->within,
            );
            $was = $before[$packed['contract']][$level->id] ?? null;
            $this->levels[$packed['contract']][$event->account][$level->id] = $was?->isAs($level) === true ? $was : $level;
        }
    }

    private function entryClosed(E\EntryClosed $event): void
    {
        unset($this->held($event->account, $event->contract)->closed[$event->entry]);
    }

    private function tied(E\OrdersTied $event): void
    {
        foreach ([[$event->first, $event->second], [$event->second, $event->first]] as [$one, $other]) {
            if (isset($this->orders[$one])) {
                $this->orders[$one]->tie = new Tie($event->first, $other, $event->oco);
            }
        }
        $this->held($event->account, $event->contract);
    }

    private function untied(E\OrderUntied $event): void
    {
        foreach ([$event->order, $event->other] as $id) {
            if (isset($this->orders[$id])) {
                $this->orders[$id]->tie = null;
                $this->held($this->orders[$id]->account, $this->orders[$id]->contract);
            }
        }
    }

    /** The exits that the trader's hand is on; it counts as a change of what the account has in the contract. */
    /** The one that was taken off may still be on its way: it takes the level, and by hand. */
    private function exitSet(E\ExitSet $event): void
    {
        $exits = $this->exitByHand($event);
        $exits?->setLevel($event->portion, $event->group, $event->role, $event->level);
        if ($this->held($event->account, $event->contract)->exitOrder($event->entry, $event->portion, $event->group, $event->role) !== null) {
            $exits?->wish($event->portion, $event->group, $event->role, true);
        }
    }

    private function exitByHand(E\ExitSet|E\ExitMoved|E\ExitTakenOff $event): ?EntryExits
    {
        $entry = $this->entry($event);
        $entry?->facts?->steeredByHand();

        return $entry?->exits;
    }

    private function entry(E\StopMoved|E\SteeringHandedBack|E\ExitSet|E\ExitMoved|E\ExitTakenOff $event): ?Entry
    {
        return $this->held($event->account, $event->contract)->entries[$event->entry] ?? null;
    }
}
