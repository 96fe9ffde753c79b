<?php

declare(strict_types=1);

namespace App\Engine\View;

use Brick\Math\RoundingMode;
use Lotrik\Book\PriceLevel;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\Account\RiskAtEntry;
use Lotrik\Desk\Account\StopLosses;
use Lotrik\Desk\TradingSystem;
use Lotrik\Money\Money;
use Lotrik\Order\Side;
use Lotrik\Risk\DepthWalk;
use Lotrik\Risk\StopLoss;

/** What is lost if all stops of an account fill: stop by stop in the contracts' currencies, in total in the account's. */
final class OpenRiskView
{
    /** Ticks through a stop, at most. */
    public const MOST_GAP = 100_000;

    /**
     * @param int $gap ticks through each stop
     * @param int $at  ms since 1970 UTC
     *
     * @return array<string, mixed>
     */
    public static function of(Account $account, TradingSystem $system, int $gap, int $at): array
    {
        $base = $account->rates->base;
        $totals = array_fill_keys(['from_here', 'slippage', 'gap'], Money::zero($base));
        $atEntry = Money::zero($base);
        $contracts = [];
        $unprotected = 0;
        foreach ($system->desk->state->holdingsOf($account->id) as $holding) {
            $contract = $system->desk->state->contracts[$holding->contract];
            if ($holding->position->lots === 0 || ! $account->rates->knows($contract->currency)) {
                continue;
            }
            $losses = self::losses($holding, $contract, $system, $gap);
            foreach ($losses as $loss) {
                foreach (['from_here' => $loss->fromHere, 'slippage' => $loss->slippage, 'gap' => $loss->gap] as $of => $money) {
                    $totals[$of] = $totals[$of]->plus($account->rates->toBase($money));
                }
            }
            $risked = RiskAtEntry::of($holding, $contract);
            $atEntry = $risked === null ? $atEntry : $atEntry->plus($account->rates->toBase($risked));
            $bare = $holding->coverage()->unprotected();
            $unprotected += $bare;
            $contracts[] = [
                'contract' => $contract->code, 'currency' => $contract->currency->code, 'quantity' => $holding->position->lots,
                'unprotected' => $bare, 'stops' => array_map(static fn(StopLoss $of): array => self::stop($of, $contract), $losses),
            ];
        }
        $risk = AccountFigures::risk($account, $system->desk, $at);
        $all = $totals['from_here']->plus($totals['slippage'])->plus($totals['gap']);

        return [
            'account' => $account->id, 'currency' => $base->code, 'gap_ticks' => $gap, 'contracts' => $contracts,
            'unprotected' => $unprotected,
            'totals' => array_map(static fn(Money $of): string => $of->exact(), $totals + [
                'from_entry' => $risk->risk, 'locked_in' => $risk->lockedIn, 'all' => $all,
            ]),
            'percent_of_balance' => self::share($all, $account->balance), 'percent_of_room' => self::share($all, $risk->lossRoom),
            'r' => $atEntry->isPositive() ? (string) $all->amount->dividedBy($atEntry->amount)->toScale(2, RoundingMode::HALF_UP) : null,
            'loss_room' => $risk->lossRoom->exact(), 'loss_limit' => $account->limits->dailyLoss->exact(),
            'over' => $unprotected === 0 && ! $risk->lossRoom->minus($all)->isPositive(),
        ];
    }

    /** @return list<StopLoss> */
    private static function losses(AccountPosition $holding, Contract $contract, TradingSystem $system, int $gap): array
    {
        $against = $holding->position->lots > 0 ? Side::Buy : Side::Sell;
        $levels = array_map(
            static fn(PriceLevel $level): array => [$level->tick, $level->lots],
            $system->market($contract->code)->venue->book->levels($against),
        );
        $mark = $system->desk->quote($contract->code)->exit($holding->position->lots);

        return StopLosses::of($holding, $contract, $mark, new DepthWalk($levels), $gap);
    }

    /** @return array<string, mixed> */
    private static function stop(StopLoss $of, Contract $contract): array
    {
        return [
            'entry' => $of->entry, 'portion' => $of->portion, 'lots' => $of->lots, 'stop' => $contract->price($of->stop),
            'from_here' => $of->fromHere->exact(), 'from_entry' => $of->fromEntry->exact(),
            'stop_words' => $contract->write($of->stop), 'in_depth_words' => $contract->writeAverage($of->inDepth),
            'in_depth' => $contract->averagePrice($of->inDepth), 'missing' => $of->missing, 'slippage' => $of->slippage->exact(),
            'gap' => $of->gap->exact(),
        ];
    }

    /** Percent, to two decimals; null of nothing. */
    private static function share(Money $of, Money $whole): ?string
    {
        return $whole->isPositive()
            ? (string) $of->amount->multipliedBy(100)->dividedBy($whole->amount)->toScale(2, RoundingMode::HALF_UP)
            : null;
    }
}
