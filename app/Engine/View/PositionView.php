<?php

declare(strict_types=1);

namespace App\Engine\View;

use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Holding;
use Lotrik\Desk\Quote;
use Lotrik\Position\PnlLine;
use Lotrik\Risk\OpenRisk;

/** A position as it goes out, marked at the price at which the trader could get out now. */
final class PositionView
{
    /** @return array<string, mixed> */
    public static function of(Holding $holding, DeskState $state, Quote $quote): array
    {
        $contract = $state->contracts[$holding->contract];
        $position = $holding->position;
        $mark = $quote->exit($position->lots);
        $open = $mark === null || $position->lots === 0 ? null : $position->openTicks($mark);
        $risk = OpenRisk::of($position, $contract, $holding->protected(), $mark);

        return [
            'account' => $holding->account, 'contract' => $holding->contract, 'quantity' => $position->lots,
            'average_price' => $position->lots === 0 ? null : $contract->averagePrice($position->average),
            'realised' => $contract->money($position->realised)->exact(),
            // A third of a tick shows in the money; ticks are whole, rounded against the trader.
            'open_ticks' => $open?->toScale(0, RoundingMode::FLOOR)->toInt() ?? 0,
            'open_money' => $contract->money($open ?? 0)->exact(),
            'unprotected' => $holding->unprotected(), 'unstopped_by_plan' => $holding->unstoppedByPlan(), 'sequence' => $holding->sequence,
            'currency' => $contract->currency->code,
            'average_words' => self::average($holding, $contract),
            'average_level' => $position->lots === 0 ? null : $position->average->toScale(0, RoundingMode::HALF_UP)->toInt(),
            'pnl' => PnlLine::of($position, $contract)->toArray(),
            'open_risk' => $risk->risk->exact(), 'locked_in' => $risk->lockedIn->exact(), 'risk_from_here' => $risk->fromHere->exact(),
            'flattening' => $holding->flattening,
            'words' => self::words($holding),
            'best' => self::best($holding),
        ];
    }

    /** The average for the screen: as the contract writes its prices where it is a whole tick, else in decimals. */
    private static function average(Holding $holding, Contract $contract): ?string
    {
        $average = $holding->position->average->simplified();
        if ($holding->position->lots === 0) {
            return null;
        }

        return $average->getDenominator()->isEqualTo(1) ? $contract->write($average->toInt()) : $contract->averagePrice($average);
    }

    private static function words(Holding $holding): string
    {
        $lots = abs($holding->position->lots);
        if ($lots === 0) {
            return 'Flat';
        }

        return sprintf('%s %d', $holding->position->lots > 0 ? 'Long' : 'Short', $lots);
    }

    /** Best profit in ticks of the newest entry that is still open; null while flat. */
    private static function best(Holding $holding): ?int
    {
        foreach (array_reverse($holding->entries) as $entry) {
            foreach ($entry->exits->covers() as $cover) {
                if ($cover->lots > 0) {
                    return $entry->exits->bestProfit($cover->group);
                }
            }
        }

        return null;
    }
}
