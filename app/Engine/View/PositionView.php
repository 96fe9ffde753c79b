<?php

declare(strict_types=1);

namespace App\Engine\View;

use Brick\Math\RoundingMode;
use Lotrik\Desk\AtRisk\RiskAtEntry;
use Lotrik\Desk\Desk;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Order\Passed;
use Lotrik\Position\PnlLine;
use Lotrik\Position\PnlLines;

/** A position as it goes out, marked at the price at which the trader could get out now. */
final class PositionView
{
    /** @return array<string, mixed> */
    public static function of(AccountPosition $holding, Desk $desk): array
    {
        $contract = $desk->state->contracts[$holding->contract];
        $position = $holding->position;
        $entries = new EntriesView($holding, $contract);
        $coverage = $holding->coverage();
        [$unprotected, $onPurpose] = [$coverage->unprotected(), $coverage->unstoppedByPlan()];

        return [
            'account' => $holding->account, 'quantity' => $position->lots,
            'average_price' => $position->lots === 0 ? null : $contract->averagePrice($position->average),
            'realised' => $contract->money($position->realised)->exact(),
            'unprotected' => $unprotected, 'unstopped_by_plan' => $onPurpose, 'protected' => abs($position->lots) - $unprotected,
            'bare' => $unprotected - $onPurpose, 'left_behind' => $coverage->leftBehind(),
            'covered_by' => $position->lots !== 0 && $coverage->uncovered() === 0 ? $coverage->nearestStop()?->id : null,
            'sequence' => $holding->sequence,
            'currency' => $contract->currency->code,
            'average_words' => $position->lots === 0 ? null : $contract->writeAverage($position->average),
            'average_level' => $position->lots === 0 ? null : $position->average->toScale(0, RoundingMode::HALF_UP)->toInt(),
            'pnl' => PnlLine::of($position, $contract)->toArray(),
            'pnl_ticks' => PnlLines::ticks($position), 'pnl_percent' => PnlLines::percent($position, $contract),
            'risk_at_entry' => RiskAtEntry::of($holding, $contract)?->exact(),
            'flattening' => $holding->isClosingDown(),
            'words' => self::words($holding),
            'entries' => $entries->all(), 'next' => $entries->next(),
        ] + self::moving($holding, $desk);
    }

    /** @return array<string, mixed> what moves with the market */
    public static function moving(AccountPosition $holding, Desk $desk): array
    {
        $contract = $desk->state->contracts[$holding->contract];
        $quote = $desk->quote($holding->contract);
        $position = $holding->position;
        $mark = $quote->exit($position->lots);
        $open = $mark === null || $position->lots === 0 ? null : $position->openTicks($mark)->rational();
        $risk = $desk->atStops->of($holding, $contract)->from($mark);

        return [
            'contract' => $holding->contract,
            // A third of a tick shows in the money; ticks are whole, rounded against the trader.
            'open_ticks' => $open?->toScale(0, RoundingMode::FLOOR)->toInt() ?? 0,
            'open_money' => $contract->money($open ?? 0)->exact(),
            'open_words' => OpenWords::of($holding, $contract, $open),
            'open_risk' => $risk->risk->exact(), 'locked_in' => $risk->lockedIn->exact(), 'risk_from_here' => $risk->fromHere->exact(),
            'turns' => ['target' => $mark, 'stop' => Passed::clamped($quote->last, $quote->bid, $quote->ask)],
            'best' => self::best($holding),
            'results' => (new EntriesView($holding, $contract))->results($mark),
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
