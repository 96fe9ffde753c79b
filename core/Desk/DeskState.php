<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountBook;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\ClosingTrigger;
use Lotrik\Desk\Account\DeskOrder;
use Lotrik\Desk\Account\ReversalEntry;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\State\AccountEvents;
use Lotrik\Desk\State\ExitEvents;
use Lotrik\Desk\State\FillEvents;
use Lotrik\Desk\State\HeldPosition;
use Lotrik\Desk\State\LevelEvents;
use Lotrik\Desk\State\OrderEvents;
use Lotrik\Desk\Steps\Step;
use Lotrik\Desk\Steps\StepsUnderWay;
use Lotrik\Risk\Limits\AccountDay;
use Lotrik\Watching\Levels\WatchedLevel;

/**
 * All that the desk knows that must survive: accounts, contracts, orders, positions and exits. It changes only in
 * {@see apply()}, so that applying the journal's events again gives the same state. Applying never throws, never
 * decides, and looks nothing up that the event does not carry; reading never changes anything.
 */
final class DeskState
{
    /** on which days the venue trades otherwise than its sessions say */
    public ?Calendar $calendar = null;

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

    /** @var array<int, AccountBook> */
    public array $books = [];

    /** @var array<string, array<int, array<int, WatchedLevel>>> contract → account → number → level that is watched */
    public array $levels = [];

    public readonly HandledCommands $handled;

    /** Orders in a final state that are at hand; counted by {@see State\OrderEvents}. */
    public int $finished = 0;

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

    /** What has come upon an account; where it was never opened, a blank book that is not kept. */
    public function bookOf(int $account): AccountBook
    {
        return $this->books[$account] ?? new AccountBook();
    }

    public function isBarred(int $account, int $at): bool
    {
        return $this->bookOf($account)->isBarred($at);
    }

    public function isClosed(int $account): bool
    {
        return $this->bookOf($account)->isClosed;
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
            $event instanceof E\AccountOpened => AccountEvents::opened($this, $event),
            $event instanceof E\ContractListed => $this->contracts[$event->contract] = Contract::fromArray($event->document)
                ->under($this->calendar ?? Calendar::none()),
            $event instanceof E\CalendarSet => $this->calendarSet(Calendar::fromArray($event->calendar)),
            $event instanceof E\CommandTaken => $this->handled->add(
                $event->account,
                $event->clientId,
                new HandledCommand($event->op, $event->fingerprint, $event->answer),
            ),
            $event instanceof E\OrderPlaced => OrderEvents::placed($this, $event, $at),
            $event instanceof E\OrderFilled => FillEvents::filled($this, $event, $at),
            $event instanceof E\StopMoved => ExitEvents::stopMoved($this, $event, $at),
            $event instanceof E\SteeringHandedBack => ExitEvents::entry($this, $event)?->exits->handBack($event->portion, $event->group),
            $event instanceof E\AccountClosed => AccountEvents::closed($this, $event),
            $event instanceof E\RatesSet => $this->accounts[$event->account] = Account::fromArray(
                ['rates' => $event->rates] + $this->accounts[$event->account]->document,
            ),
            $event instanceof E\LimitsSet => AccountEvents::limitsSet($this, $event),
            $event instanceof E\AccountBarred => AccountEvents::barred($this, $event),
            $event instanceof E\EntriesStopped => AccountEvents::entriesStopped($this, $event),
            $event instanceof E\CloseNear => $this->bookOf($event->account)->closeTold[$event->contract] = [$event->closes, $event->minutes],
            $event instanceof E\TradeEnded => AccountEvents::tradeEnded($this, $event),
            $event instanceof E\DayBegun => AccountEvents::dayBegun($this, $event),
            $event instanceof E\LimitNeared => $this->bookOf($event->account)->neared[$event->limit] = [$event->day, $event->percent],
            $event instanceof E\ExitSet => ExitEvents::exitSet($this, $event),
            $event instanceof E\ExitMoved => ExitEvents::exitByHand($this, $event)?->wishedByHand(
                $event->portion,
                $event->group,
                $event->role,
                $event->level,
            ),
            $event instanceof E\ExitTakenOff => ExitEvents::exitByHand($this, $event)?->takeOff($event->portion, $event->group, $event->role),
            $event instanceof E\PlanPutOn => ExitEvents::planPutOn($this, $event, $at),
            $event instanceof E\OrdersTied => OrderEvents::tied($this, $event),
            $event instanceof E\OrderUntied => OrderEvents::untied($this, $event),
            $event instanceof E\FlattenStarted => ExitEvents::closeDown(
                $this,
                $event,
                $event->trigger,
                $event->thenEnter === null ? null : ReversalEntry::fromArray($event->thenEnter),
            ),
            $event instanceof E\FlattenEnded => ExitEvents::closeDown($this, $event, ClosingTrigger::Flat, null),
            $event instanceof E\EntryClosed => ExitEvents::entryClosed($this, $event),
            $event instanceof E\StepsBegun => HeldPosition::of($this, $event->account, $event->contract)->steps = new StepsUnderWay(
                $event->name,
                $event->clientId,
                array_map(Step::fromArray(...), $event->steps),
                $at,
            ),
            $event instanceof E\StepTaken => HeldPosition::of($this, $event->account, $event->contract)->steps?->took($event->lotsBefore, $event->placed),
            $event instanceof E\StepsDone, $event instanceof E\StepsStopped => HeldPosition::of($this, $event->account, $event->contract)->steps = null,
            $event instanceof E\LevelsWatched => LevelEvents::watched($this, $event),
            $event instanceof E\LevelTold => ($this->levels[$event->contract][$event->account][$event->level] ?? null)?->told($event->news, $at),
            $event instanceof E\CommandRefused, $event instanceof E\ReversalDropped, $event instanceof E\ReportOutOfPlace,
            $event instanceof E\VenueDiffers, $event instanceof E\StrayOrderFound => null,
            $event instanceof E\OfOrder => OrderEvents::changed($this, $event, $at),
            default => null,
        };
    }

    /** When the trading day of an account began that a moment lies in, ms since 1970 UTC. */
    public function dayOf(int $account, int $at): int
    {
        return (($this->accounts[$account] ?? null)?->limits->day ?? AccountDay::utc())->begins($at);
    }
}
