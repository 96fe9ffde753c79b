<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Account\LeftOver;
use Lotrik\Desk\Account\Reach;
use Lotrik\Desk\Desk;
use Lotrik\Desk\EventText;
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
        $risk = $before ? null : AccountFigures::risk($account, $desk, $at);
        $extreme = static fn(?array $seen): ?array => $seen === null ? null : ['at' => Time::iso($seen[0]), 'money' => $seen[1]];

        return [
            'account' => $account->id, 'currency' => $account->rates->base->code, 'is_over' => $before,
            'began' => $before ? $day->begins($began - 1) : $began, 'ends' => $before ? $began : $ends,
            'realised' => $risk?->realised->exact(), 'open' => $risk?->open->exact(), 'fees' => $risk?->fees->exact(), 'net' => $risk?->net->exact(),
            'loss_limit' => $account->limits->dailyLoss->exact(),
            'best' => $extreme($line?->best()), 'worst' => $extreme($line?->worst()),
            'line' => array_map(
                static fn(array $point): array => ['at' => $point[0], 'net' => $point[1], 'closed' => $point[2]],
                $line?->points() ?? [],
            ),
            'by_contract' => $before ? [] : self::byContract($account, $desk, $at),
            'left_over' => self::leftOver($account, $desk, $at),
        ];
    }

    /** @return list<array<string, mixed>> each contract that was traded in, or that has something open or working */
    private static function byContract(Account $account, Desk $desk, int $at): array
    {
        $filled = ($desk->state->days[$account->id] ?? null)?->of($account->limits->day->begins($at)) ?? [];
        $rows = [];
        foreach ($desk->state->holdingsOf($account->id) as $holding) {
            $contract = $desk->state->contracts[$holding->contract];
            [$ticks, $lots] = $filled[$contract->code] ?? [null, 0];
            $isIdle = $ticks === null && $holding->position->lots === 0 && $holding->working === [];
            if ($isIdle || ! $account->rates->knows($contract->currency)) {
                continue;
            }
            $day = DayResult::of($account->rates, $ticks === null ? [] : [[$contract, $ticks, $lots]]);
            $mark = $holding->position->lots === 0 ? null : $desk->quote($contract->code)->exit($holding->position->lots);
            $open = $mark === null
                ? Money::zero($account->rates->base)
                : $account->rates->toBase($contract->money($holding->position->openTicks($mark)));
            $rows[] = [
                'contract' => $contract->code, 'quantity' => $holding->position->lots, 'lots' => $lots,
                'realised' => $day->realised->exact(), 'open' => $open->exact(), 'fees' => $day->fees->exact(),
                'net' => $day->net()->plus($open)->exact(),
                'margin' => $account->rates->toBase(Margin::perLot($contract, $at)->times(Reach::of($holding)->most()))->exact(),
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
                $left[] = ['contract' => $contract->code, 'words' => EventText::named($order, $contract), 'why' => LeftOver::why($order, $contract, $at)];
            }
        }

        return $left;
    }
}
