<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Desk\Desk;
use Lotrik\Desk\DeskState;
use Lotrik\Risk\AccountRisk;
use Lotrik\Risk\AtStops;
use Lotrik\Risk\DayResult;
use Lotrik\Risk\MarkedPosition;

/** An account's figures at a moment, for those who work risk and results out of them. */
final class AccountFigures
{
    /** @param int $at ms since 1970 UTC */
    public static function risk(Account $account, Desk $desk, int $at): AccountRisk
    {
        $positions = [];
        foreach ($desk->state->holdings as $code => $holdings) {
            $holding = $holdings[$account->id] ?? null;
            if ($holding !== null && $holding->position->lots !== 0) {
                $mark = $desk->quote($code)->exit($holding->position->lots);
                $positions[$code] = new MarkedPosition(
                    $desk->state->contracts[$code],
                    $holding->position,
                    $mark,
                    $desk->atStops->of($holding, $desk->state->contracts[$code]),
                );
            }
        }

        return AccountRisk::of($account->rates, $account->limits->dailyLoss, $positions, self::day($account, $desk->state, $at));
    }

    /**
     * The same for what would be open.
     *
     * @param array<string, ProtectedPosition> $open by contract; each has a rate
     * @param int                     $at   ms since 1970 UTC
     */
    public static function riskIf(Account $account, Desk $desk, array $open, int $at): AccountRisk
    {
        $positions = [];
        foreach ($open as $code => $of) {
            $positions[$code] = new MarkedPosition(
                $of->contract, $of->position, $desk->quote($code)->exit($of->position->lots),
                AtStops::of($of->position, $of->contract, $of->protected()),
            );
        }

        return AccountRisk::of($account->rates, $account->limits->dailyLoss, $positions, self::day($account, $desk->state, $at));
    }

    /** @param int $at ms since 1970 UTC */
    public static function day(Account $account, DeskState $state, int $at): DayResult
    {
        $filled = ($state->days[$account->id] ?? null)?->of($account->limits->day->begins($at)) ?? [];
        $tally = [];
        foreach ($filled as $code => [$ticks, $lots]) {
            $tally[] = [$state->contracts[$code], $ticks, $lots];
        }

        return DayResult::of($account->rates, $tally);
    }
}
