<?php

declare(strict_types=1);

namespace App\Engine\View;

use Brick\Math\RoundingMode;
use Lotrik\Book\PriceLevel;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\Account;
use Lotrik\Desk\Account\AccountFigures;
use Lotrik\Desk\Account\Balance;
use Lotrik\Desk\AtRisk\Gap;
use Lotrik\Desk\AtRisk\ProtectedPosition;
use Lotrik\Desk\AtRisk\StopLosses;
use Lotrik\Desk\TradingSystem;
use Lotrik\Money\Money;
use Lotrik\Risk\DepthWalk;
use Lotrik\Risk\StopLoss;

/** What is lost if all stops of an account fill: stop by stop in the contracts' currencies, in total in the account's. */
final class OpenRiskView
{
    /**
     * @param array<string, ProtectedPosition> $open contract → what is open, or would be
     * @param int                     $at   ms since 1970 UTC
     *
     * @return array<string, mixed>
     */
    public static function of(Account $account, TradingSystem $system, array $open, Gap $gap, int $at): array
    {
        $base = $account->rates->base;
        $totals = array_fill_keys(['from_here', 'slippage', 'gap'], Money::zero($base));
        $atEntry = Money::zero($base);
        $contracts = [];
        $unprotected = 0;
        $open = array_filter($open, static fn(ProtectedPosition $of): bool => $account->rates->knows($of->contract->currency));
        foreach ($open as $code => $of) {
            $contract = $of->contract;
            $through = $gap->of($system->desk->quote($code), $at);
            $losses = self::losses($of, $system, $through);
            foreach ($losses as $loss) {
                foreach (['from_here' => $loss->fromHere, 'slippage' => $loss->slippage, 'gap' => $loss->gap] as $name => $money) {
                    $totals[$name] = $totals[$name]->plus($account->rates->toBase($money));
                }
            }
            $atEntry = $of->atEntry === null ? $atEntry : $atEntry->plus($account->rates->toBase($of->atEntry));
            $unprotected += $of->unprotected();
            $contracts[] = [
                'contract' => $contract->code, 'currency' => $contract->currency->code, 'quantity' => $of->position->lots,
                'unprotected' => $of->unprotected(), 'gap_ticks' => $through,
                'stops' => array_map(static fn(StopLoss $loss): array => self::stop($loss, $contract), $losses),
            ];
        }
        $risk = AccountFigures::riskIf($account, $system->desk, $open, $at);
        $room = $risk->lossRoom->left;
        $all = $totals['from_here']->plus($totals['slippage'])->plus($totals['gap']);

        return [
            'account' => $account->id, 'currency' => $base->code, 'contracts' => $contracts,
            'unprotected' => $unprotected,
            'totals' => array_map(static fn(Money $of): string => $of->exact(), $totals + [
                'from_entry' => $risk->risk, 'locked_in' => $risk->lockedIn, 'all' => $all,
            ]),
            'percent_of_balance' => self::share($all, Balance::of($account, $system->desk->state)),
            'percent_of_room' => self::share($all, $room),
            'r' => $atEntry->isPositive() ? (string) $all->dividedBy($atEntry)->toScale(2, RoundingMode::HALF_UP) : null,
            'loss_room' => $room->exact(), 'loss_limit' => $risk->lossRoom->of->exact(), 'loss_room_limit' => $risk->lossRoom->limit,
            // Lots without a stop may lose more still: that is said beside it.
            'over' => ! $room->minus($all)->isPositive() && $all->isPositive(),
        ];
    }

    /** @return list<StopLoss> */
    private static function losses(ProtectedPosition $of, TradingSystem $system, int $gap): array
    {
        $levels = array_map(
            static fn(PriceLevel $level): array => [$level->tick, $level->lots],
            $system->market($of->contract->code)->venue->book->levels($of->against()),
        );

        return StopLosses::of($of, $system->desk->quote($of->contract->code)->mark(), new DepthWalk($levels), $gap);
    }

    /** @return array<string, mixed> */
    private static function stop(StopLoss $of, Contract $contract): array
    {
        return [
            'entry' => $of->entry, 'portion' => $of->portion, 'order' => $of->order, 'lots' => $of->lots,
            'stop' => $contract->price($of->stop),
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
            ? (string) $of->dividedBy($whole)->multipliedBy(100)->toScale(2, RoundingMode::HALF_UP)
            : null;
    }
}
