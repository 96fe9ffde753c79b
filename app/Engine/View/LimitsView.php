<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Desk;
use Lotrik\Risk\DayUse;

/** The limits of an account: in force, to come, and how much of those of the day is used up. */
final class LimitsView
{
    /**
     * @param int $at ms since 1970 UTC
     *
     * @return array<string, mixed>
     */
    public static function of(Account $account, Desk $desk, int $at): array
    {
        [$next, $from] = $desk->state->bookOf($account->id)->limitsNext ?? [null, null];
        [$until, $because] = $desk->state->bookOf($account->id)->entriesStopped;
        [$day, $lost] = $desk->state->bookOf($account->id)->losses;
        $limits = $account->limits;
        $isBarred = $desk->state->isBarred($account->id, $at);

        return [
            'account' => $account->id, 'currency' => $account->rates->base->code,
            'now' => $limits->toArray(), 'next' => $next,
            'from' => $from === null ? null : Time::iso($from),
            'day_ends' => Time::iso($limits->day->ends($at)),
            'uses' => array_map(static fn(DayUse $use): array => [
                'limit' => $use->limit, 'used' => $use->used->isPositive() ? $use->used->exact() : '0', 'of' => $use->of->exact(),
                'percent' => $use->percent(),
            ], $desk->lossWatch()->uses($account, $at)),
            'losses_in_a_row' => $day === $limits->day->begins($at) ? $lost : 0,
            'stopped_until' => $at < $until ? Time::iso($until) : null, 'stopped_because' => $at < $until ? $because : null,
            'barred_until' => $isBarred ? Time::iso($desk->state->bookOf($account->id)->barredUntil) : null,
            'barred_for' => $isBarred ? $desk->state->bookOf($account->id)->barredFor : null,
        ];
    }
}
