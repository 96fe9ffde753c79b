<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Desk\AtRisk\ProtectedPosition;
use Lotrik\Desk\Desk;
use Lotrik\Desk\DeskState;
use Lotrik\Money\Money;
use Lotrik\Risk\AccountRisk;
use Lotrik\Risk\AtStops;
use Lotrik\Risk\DayResult;
use Lotrik\Risk\LossRoom;
use Lotrik\Risk\MarkedPosition;

/** An account's figures at a moment, for those who work risk and results out of them: on the mark that its limits are judged at. */
final class AccountFigures
{
    /** @param int $at ms since 1970 UTC */
    public static function risk(Account $account, Desk $desk, int $at): AccountRisk
    {
        $positions = [];
        foreach ($desk->state->holdings as $code => $holdings) {
            $holding = $holdings[$account->id] ?? null;
            if ($holding !== null && $holding->position->lots !== 0) {
                $mark = $desk->quote($code)->mark();
                $positions[$code] = new MarkedPosition(
                    $desk->state->contracts[$code],
                    $holding->position,
                    $mark,
                    $desk->atStops->of($holding, $desk->state->contracts[$code]),
                );
            }
        }

        return self::of($positions, $account, $desk, $at, static fn(Money $net): LossRoom => $desk->lossWatch()->roomAt($account, $net, $at));
    }

    /**
     * The same for what would be open; the room is that of the day as it stands.
     *
     * @param array<string, ProtectedPosition> $open by contract; each has a rate
     * @param int                     $at   ms since 1970 UTC
     */
    public static function riskIf(Account $account, Desk $desk, array $open, int $at): AccountRisk
    {
        $positions = [];
        foreach ($open as $code => $of) {
            $positions[$code] = new MarkedPosition(
                $of->contract, $of->position, $desk->quote($code)->mark(),
                AtStops::of($of->position, $of->contract, $of->protected()),
            );
        }

        return self::of($positions, $account, $desk, $at, static fn(): LossRoom => $desk->lossWatch()->room($account, $at));
    }

    /**
     * @param array<string, MarkedPosition> $positions by contract
     * @param callable(Money): LossRoom     $room      of a day that stands at so much
     */
    private static function of(array $positions, Account $account, Desk $desk, int $at, callable $room): AccountRisk
    {
        return AccountRisk::of(
            $account->rates,
            $room,
            $positions,
            self::day($account, $desk->state, $at),
            self::carried($account, $desk->state, $at),
        );
    }

    /** What open lots had won when the account's day began: no gain of this day. @param int $at ms since 1970 UTC */
    public static function carried(Account $account, DeskState $state, int $at): Money
    {
        $carried = Money::zero($account->rates->base);
        $won = $state->bookOf($account->id)->day->carried($account->limits->day->begins($at));
        foreach ($won as $code => $ticks) {
            $contract = $state->contracts[$code];
            $carried = $account->rates->knows($contract->currency)
                ? $carried->plus($account->rates->toBase($contract->money($ticks)))
                : $carried;
        }

        return $carried;
    }

    /** @param int $at ms since 1970 UTC */
    public static function day(Account $account, DeskState $state, int $at): DayResult
    {
        $filled = $state->bookOf($account->id)->day->of($account->limits->day->begins($at));
        $tally = [];
        foreach ($filled as $code => [$ticks, $lots]) {
            $tally[] = [$state->contracts[$code], $ticks, $lots];
        }

        return DayResult::of($account->rates, $tally);
    }
}
