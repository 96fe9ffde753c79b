<?php

declare(strict_types=1);

namespace Lotrik\Desk\State;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountBook;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event as E;
use Lotrik\Money\Fraction;

/** What comes upon an account: limits, bars and pauses, its days. */
final class AccountEvents
{
    public static function opened(DeskState $state, E\Account\AccountOpened $event): void
    {
        $state->accounts[$event->account] = Account::fromArray($event->document);
        $book = $state->books[$event->account] = new AccountBook();
        if ($event->barred !== null) {
            [$book->barredUntil, , $book->barredFor] = $event->barred;
        }
        if ($event->stopped !== null) {
            $book->entriesStopped = $event->stopped;
        }
        if ($event->losses !== null) {
            $book->losses = $event->losses;
        }
    }

    public static function entriesStopped(DeskState $state, E\Account\EntriesStopped $event): void
    {
        $state->bookOf($event->account)->entriesStopped = [$event->until, $event->because];
        if ($event->contract !== null) {
            $holding = HeldPosition::of($state, $event->account, $event->contract);
            $holding->paused = $holding->trade;
        }
    }

    public static function closed(DeskState $state, E\Account\AccountClosed $event): void
    {
        $state->bookOf($event->account)->isClosed = true;
        $state->bookOf($event->account)->limitsNext = null;
    }

    public static function limitsSet(DeskState $state, E\Account\LimitsSet $event): void
    {
        $state->accounts[$event->account] = Account::fromArray(
            ['limits' => $event->limits, 'day_since' => $event->since] + $state->accounts[$event->account]->document,
        );
        $state->bookOf($event->account)->limitsNext = $event->next === null || $event->from === null ? null : [$event->next, $event->from];
    }

    public static function barred(DeskState $state, E\Account\AccountBarred $event): void
    {
        $book = $state->bookOf($event->account);
        [$book->barredUntil, $book->barredFor] = [$event->until, $event->limit];
    }

    public static function lifted(DeskState $state, E\Account\BarLifted $event): void
    {
        $book = $state->bookOf($event->account);
        [$book->barredUntil, $book->entriesStopped, $book->losses] = [0, [0, ''], [0, 0]];
    }

    public static function dayBegun(DeskState $state, E\Account\DayBegun $event): void
    {
        $state->bookOf($event->account)->day->begin($event->day, array_map(
            static fn(array $of): array => [Fraction::of($of[0]), $of[1]],
            $event->carried,
        ));
    }

    public static function tradeEnded(DeskState $state, E\Account\TradeEnded $event): void
    {
        $holding = HeldPosition::of($state, $event->account, $event->contract);
        array_shift($holding->endedTrades);
        $book = $state->bookOf($event->account);
        [$day, $lost] = $book->losses;
        $book->losses = [$event->day, $event->isLoss ? ($day === $event->day ? $lost : 0) + 1 : 0];
    }
}
