<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Contract\Calendar;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountBook;
use Lotrik\Desk\Event as E;
use Lotrik\Desk\Flatten\ClosingTrigger;
use Lotrik\Desk\Flatten\ReversalEntry;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\State\AccountEvents;
use Lotrik\Desk\State\ExitEvents;
use Lotrik\Desk\State\FillEvents;
use Lotrik\Desk\State\HandledCommand;
use Lotrik\Desk\State\HandledCommands;
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
            $event instanceof E\Account\AccountOpened => AccountEvents::opened($this, $event),
            $event instanceof E\Venue\ContractListed => $this->contracts[$event->contract] = Contract::fromArray($event->document)
                ->under($this->calendar ?? Calendar::none()),
            $event instanceof E\Venue\CalendarSet => $this->calendarSet(Calendar::fromArray($event->calendar)),
            $event instanceof E\Command\CommandTaken => $this->handled->add(
                $event->account,
                $event->clientId,
                new HandledCommand($event->op, $event->fingerprint, $event->answer),
            ),
            $event instanceof E\Order\OrderPlaced => OrderEvents::placed($this, $event, $at),
            $event instanceof E\Fill\OrderFilled => FillEvents::filled($this, $event, $at),
            $event instanceof E\Exit\StopMoved => ExitEvents::stopMoved($this, $event, $at),
            $event instanceof E\Exit\SteeringHandedBack => ExitEvents::entry($this, $event)
                ?->exits->handBack($event->portion, $event->group),
            $event instanceof E\Account\AccountClosed => AccountEvents::closed($this, $event),
            $event instanceof E\Account\RatesSet => $this->accounts[$event->account] = Account::fromArray(
                ['rates' => $event->rates] + $this->accounts[$event->account]->document,
            ),
            $event instanceof E\Account\LimitsSet => AccountEvents::limitsSet($this, $event),
            $event instanceof E\Account\AccountBarred => AccountEvents::barred($this, $event),
            $event instanceof E\Account\BarLifted => AccountEvents::lifted($this, $event),
            $event instanceof E\Account\EntriesStopped => AccountEvents::entriesStopped($this, $event),
            $event instanceof E\Account\CloseNear => $this->bookOf($event->account)->closeTold[$event->contract] = [
                $event->closes, $event->minutes,
            ],
            $event instanceof E\Account\TradeEnded => AccountEvents::tradeEnded($this, $event),
            $event instanceof E\Account\DayBegun => AccountEvents::dayBegun($this, $event),
            $event instanceof E\Account\LimitNeared => $this->bookOf($event->account)->neared[$event->limit] = [
                $event->day, $event->percent,
            ],
            $event instanceof E\Exit\ExitSet => ExitEvents::exitSet($this, $event),
            $event instanceof E\Exit\ExitMoved => ExitEvents::exitByHand($this, $event)?->wishedByHand(
                $event->portion,
                $event->group,
                $event->role,
                $event->level,
            ),
            $event instanceof E\Exit\ExitTakenOff => ExitEvents::exitByHand($this, $event)?->takeOff(
                $event->portion, $event->group, $event->role,
            ),
            $event instanceof E\Exit\PlanPutOn => ExitEvents::planPutOn($this, $event, $at),
            $event instanceof E\Order\OrdersTied => OrderEvents::tied($this, $event),
            $event instanceof E\Order\OrderUntied => OrderEvents::untied($this, $event),
            $event instanceof E\Command\FlattenStarted => ExitEvents::closeDown(
                $this,
                $event,
                $event->trigger,
                $event->thenEnter === null ? null : ReversalEntry::fromArray($event->thenEnter),
            ),
            $event instanceof E\Command\FlattenEnded => ExitEvents::closeDown($this, $event, ClosingTrigger::Flat, null),
            $event instanceof E\Exit\EntryClosed => ExitEvents::entryClosed($this, $event),
            $event instanceof E\Command\StepsBegun => HeldPosition::of($this, $event->account, $event->contract)->steps = new StepsUnderWay(
                $event->name,
                $event->clientId,
                array_map(Step::fromArray(...), $event->steps),
                $at,
            ),
            $event instanceof E\Command\StepTaken => HeldPosition::of(
                $this, $event->account, $event->contract,
            )->steps?->took($event->lotsBefore, $event->placed),
            $event instanceof E\Command\StepsDone,
            $event instanceof E\Command\StepsStopped => HeldPosition::of($this, $event->account, $event->contract)->steps = null,
            $event instanceof E\Level\LevelsWatched => LevelEvents::watched($this, $event),
            $event instanceof E\Level\LevelTold => ($this->levels[$event->contract][$event->account][$event->level] ?? null)
                ?->told($event->news, $at),
            $event instanceof E\Command\CommandRefused,
            $event instanceof E\Command\ReversalDropped, $event instanceof E\Venue\ReportOutOfPlace,
            $event instanceof E\Venue\VenueDiffers, $event instanceof E\Venue\StrayOrderFound => null,
            $event instanceof E\Order\OfOrder => OrderEvents::changed($this, $event, $at),
            default => null,
        };
    }

    /** When the trading day of an account began that a moment lies in, ms since 1970 UTC. */
    public function dayOf(int $account, int $at): int
    {
        return (($this->accounts[$account] ?? null)?->limits->day ?? AccountDay::utc())->begins($at);
    }
}
