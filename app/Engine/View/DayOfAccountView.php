<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\DayTally;
use Lotrik\Desk\AtRisk\Reach;
use Lotrik\Desk\Desk;
use Lotrik\Desk\Event\EventText;
use Lotrik\Desk\Order\LeftOver;
use Lotrik\Money\Fraction;
use Lotrik\Money\Money;
use Lotrik\Risk\DayResult;
use Lotrik\Risk\Margin;

/** An account's present trading day: its result by contract and in total, how it went, and what is left over. Money in its currency. */
final class DayOfAccountView
{
    /**
     * @param bool $before the day before the present one, as far as it is remembered
     * @param int  $at     ms since 1970 UTC
     *
     * @return array<string, mixed>
     */
    public static function of(Account $account, Desk $desk, bool $before, int $at): array
    {
        $day = $account->limits->day;
        [$began, $ends] = [$day->begins($at), $day->ends($at)];
        $line = $before ? $desk->lossWatch()->lineBefore($account, $at) : $desk->lossWatch()->line($account, $at);
        $days = $desk->state->bookOf($account->id)->day;
        $of = $before ? $day->begins($began - 1) : $began;
        $rows = self::byContract($account, $desk, $days, $of, $before, $at);
        $sum = static function (string $field) use ($rows, $account): string {
            $base = $account->rates->base;

            return array_reduce(
                $rows, static fn(Money $sum, array $row): Money => $sum->plus(Money::of($row[$field], $base)), Money::zero($base),
            )->exact();
        };
        $extreme = static fn(?array $seen): ?array => $seen === null ? null : ['at' => Time::iso($seen[0]), 'money' => $seen[1]];

        return [
            'account' => $account->id, 'currency' => $account->rates->base->code, 'is_over' => $before,
            'began' => $of, 'ends' => $before ? $began : $ends,
            'realised' => $sum('realised'), 'open' => $sum('open'), 'fees' => $sum('fees'), 'net' => $sum('net'),
            'loss_limit' => $account->limits->dailyLoss->exact(),
            'best' => $extreme($line?->best()), 'worst' => $extreme($line?->worst()),
            'line' => array_map(
                static fn(array $point): array => ['at' => $point[0], 'net' => $point[1], 'closed' => $point[2]],
                $line?->points() ?? [],
            ),
            'by_contract' => $rows,
            'left_over' => self::leftOver($account, $desk, $at),
        ];
    }

    /**
     * Each contract that was traded in, or that has, or had at its end, something open; now also those with something working.
     *
     * @param int $day when it began, ms since 1970 UTC
     *
     * @return list<array<string, mixed>>
     */
    private static function byContract(Account $account, Desk $desk, DayTally $days, int $day, bool $isOver, int $at): array
    {
        $filled = $days->of($day);
        $atEnd = $days->openAtEnd($day);
        $carried = $days->carried($day);
        $rows = [];
        foreach ($desk->state->holdingsOf($account->id) as $holding) {
            $contract = $desk->state->contracts[$holding->contract];
            [$ticks, $lots] = $filled[$contract->code] ?? [null, 0];
            $isIdle = $ticks === null
                && ($isOver ? ! isset($atEnd[$contract->code]) : $holding->position->lots === 0 && $holding->working === []);
            if ($isIdle || ! $account->rates->knows($contract->currency)) {
                continue;
            }
            $result = DayResult::of($account->rates, $ticks === null ? [] : [[$contract, $ticks, $lots]]);
            $mark = $isOver || $holding->position->lots === 0 ? null : $desk->quote($contract->code)->mark();
            $won = $isOver
                ? $atEnd[$contract->code] ?? Fraction::zero()
                : ($mark === null ? Fraction::zero() : $holding->position->openTicks($mark))->minus($carried[$contract->code] ?? Fraction::zero());
            $open = $account->rates->toBase($contract->money($won));
            $rows[] = [
                'contract' => $contract->code, 'quantity' => $isOver ? 0 : $holding->position->lots, 'lots' => $lots,
                'realised' => $result->realised->exact(), 'open' => $open->exact(), 'fees' => $result->fees->exact(),
                'net' => $result->net()->plus($open)->exact(),
                'margin' => $account->rates->toBase(
                    Margin::perLot($contract, $at)->times($isOver ? 0 : Reach::of($holding)->most()),
                )->exact(),
            ];
        }

        return $rows;
    }

    /** @return list<array{contract: string, words: string, why: string}> positions and orders that are there now, and why each is */
    private static function leftOver(Account $account, Desk $desk, int $at): array
    {
        $left = [];
        foreach ($desk->state->holdingsOf($account->id) as $holding) {
            $contract = $desk->state->contracts[$holding->contract];
            $lots = $holding->position->lots;
            if ($lots !== 0) {
                $bare = $holding->coverage()->unprotected();
                $left[] = [
                    'contract' => $contract->code, 'words' => ($lots > 0 ? 'Long ' : 'Short ').abs($lots),
                    'why' => $bare === 0 ? 'open, under its stops' : "open, $bare unprotected",
                ];
            }
            foreach ($holding->working as $order) {
                $left[] = [
                    'contract' => $contract->code, 'words' => EventText::named($order, $contract),
                    'why' => LeftOver::why($order, $contract, $at),
                ];
            }
        }

        return $left;
    }
}
