<?php

declare(strict_types=1);

namespace App\Engine\View;

use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Account\AccountPosition;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Quote;
use Lotrik\Order\Role;
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
        $risk = OpenRisk::of($position, $contract, $holding->coverage()->protected(), $mark);

        return [
            'account' => $holding->account, 'contract' => $holding->contract, 'quantity' => $position->lots,
            'average_price' => $position->lots === 0 ? null : $contract->averagePrice($position->average),
            'realised' => $contract->money($position->realised)->exact(),
            // A third of a tick shows in the money; ticks are whole, rounded against the trader.
            'open_ticks' => $open?->toScale(0, RoundingMode::FLOOR)->toInt() ?? 0,
            'open_money' => $contract->money($open ?? 0)->exact(),
            'unprotected' => $holding->coverage()->unprotected(), 'unstopped_by_plan' => $holding->coverage()->unstoppedByPlan(),
            'covered_by' => $position->lots !== 0 && $holding->coverage()->uncovered() === 0 ? $holding->coverage()->nearestStop()?->id : null,
            'sequence' => $holding->sequence,
            'currency' => $contract->currency->code,
            'average_words' => $position->lots === 0 ? null : $contract->writeAverage($position->average),
            'average_level' => $position->lots === 0 ? null : $position->average->toScale(0, RoundingMode::HALF_UP)->toInt(),
            'pnl' => PnlLine::of($position, $contract)->toArray(),
            'open_risk' => $risk->risk->exact(), 'locked_in' => $risk->lockedIn->exact(), 'risk_from_here' => $risk->fromHere->exact(),
            'flattening' => $holding->isClosingDown(),
            'words' => self::words($holding),
            'best' => self::best($holding),
            'entries' => self::entries($holding, $contract),
        ];
    }

    /**
     * What of the position is under which exits, portion by portion; prices in ticks.
     *
     * @return list<array<string, mixed>>
     */
    private static function entries(AccountPosition $holding, Contract $contract): array
    {
        $entries = [];
        foreach ($holding->entries as $entry) {
            $exits = $entry->exits;
            $portions = [];
            foreach ($exits->slots() as $slot) {
                if ($slot->lots === 0) {
                    continue;
                }
                $stop = $holding->exitOrder($entry->order, $slot->portion->number, $slot->group, Role::Stop);
                $target = $holding->exitOrder($entry->order, $slot->portion->number, $slot->group, Role::Target);
                $back = $slot->stopByHand ? $exits->ratchetLevel($slot) : null;
                $portions[] = [
                    'portion' => $slot->portion->number, 'group' => $slot->group, 'lots' => $slot->lots,
                    'stop' => $slot->wantsStop() ? $slot->stop : null, 'stop_order' => $stop?->id,
                    'left_behind' => $stop?->isLeftBehind() ?? false,
                    'target' => $slot->wantsTarget() ? $slot->target : null, 'target_order' => $target?->id,
                    'steering' => $slot->stopByHand ? 'hand' : 'plan',
                    'back_words' => $back === null ? null : 'its ratchets would have it at '.$contract->write($back),
                    'best' => $exits->bestProfit($slot->group),
                ];
            }
            if ($portions !== []) {
                $entries[] = [
                    'entry' => $entry->order, 'side' => $exits->side->value, 'plan' => $exits->plan->name,
                    'covers' => $exits->plan->covers->value, 'lots' => $exits->openLots(), 'portions' => $portions,
                ];
            }
        }

        return $entries;
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
