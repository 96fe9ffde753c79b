<?php

declare(strict_types=1);

namespace App\Engine\View;

use Brick\Math\RoundingMode;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Quote;
use Lotrik\Order\Passed;
use Lotrik\Position\PnlLine;
use Lotrik\Risk\OpenRisk;

/** A position as it goes out, marked at the price at which the trader could get out now. */
final class PositionView
{
    /** @return array<string, mixed> */
    public static function of(AccountPosition $holding, DeskState $state, Quote $quote): array
    {
        $contract = $state->contracts[$holding->contract];
        $position = $holding->position;
        $mark = $quote->exit($position->lots);
        $open = $mark === null || $position->lots === 0 ? null : $position->openTicks($mark);
        $entries = new EntriesView($holding, $contract);
        $coverage = $holding->coverage();
        $risk = OpenRisk::of($position, $contract, $coverage->protected(), $mark);

        return [
            'account' => $holding->account, 'contract' => $holding->contract, 'quantity' => $position->lots,
            'average_price' => $position->lots === 0 ? null : $contract->averagePrice($position->average),
            'realised' => $contract->money($position->realised)->exact(),
            // A third of a tick shows in the money; ticks are whole, rounded against the trader.
            'open_ticks' => $open?->toScale(0, RoundingMode::FLOOR)->toInt() ?? 0,
            'open_money' => $contract->money($open ?? 0)->exact(),
            'unprotected' => $coverage->unprotected(), 'unstopped_by_plan' => $coverage->unstoppedByPlan(),
            'protected' => abs($position->lots) - $coverage->unprotected(),
            'bare' => $coverage->unprotected() - $coverage->unstoppedByPlan(), 'left_behind' => $coverage->leftBehind(),
            'covered_by' => $position->lots !== 0 && $coverage->uncovered() === 0 ? $coverage->nearestStop()?->id : null,
            'sequence' => $holding->sequence,
            'currency' => $contract->currency->code,
            'average_words' => $position->lots === 0 ? null : $contract->writeAverage($position->average),
            'average_level' => $position->lots === 0 ? null : $position->average->toScale(0, RoundingMode::HALF_UP)->toInt(),
            'pnl' => PnlLine::of($position, $contract)->toArray(),
            'open_risk' => $risk->risk->exact(), 'locked_in' => $risk->lockedIn->exact(), 'risk_from_here' => $risk->fromHere->exact(),
            'turns' => ['target' => $mark, 'stop' => Passed::clamped($quote->last, $quote->bid, $quote->ask)],
            'flattening' => $holding->isClosingDown(),
            'words' => self::words($holding),
            'best' => self::best($holding),
            'entries' => $entries->all(), 'results' => $entries->results($mark), 'next' => $entries->next(),
        ];
    }

    private static function words(AccountPosition $holding): string
    {
        $lots = abs($holding->position->lots);
        if ($lots === 0) {
            return 'Flat';
        }

        return sprintf('%s %d', $holding->position->lots > 0 ? 'Long' : 'Short', $lots);
    }

    /** Best profit in ticks of the newest entry that is still open; null while flat. */
    private static function best(AccountPosition $holding): ?int
    {
        foreach (array_reverse($holding->entries) as $entry) {
            foreach ($entry->exits->slots() as $slot) {
                if ($slot->lots > 0) {
                    return $entry->exits->bestProfit($slot->group);
                }
            }
        }

        return null;
    }
}
