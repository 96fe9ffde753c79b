<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Watching\Depth\DepthChange;
use Lotrik\Watching\Depth\DepthColumn;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\Depth\DepthStep;
use Lotrik\Watching\Depth\DepthSums;

/** Columns of the depth history, and what is told of the depth as it is now. Levels in ticks. */
final class DepthView
{
    /** Sums are told for so many ticks from the best price on each side. */
    private const WITHIN = [3, 5, 10, 20];

    /** What counts as just traded, in ms. */
    private const JUST_MS = 10_000;

    /** Columns that one event tells of: after a jump of the market the page asks for the rest. */
    private const MAX = 40;

    /**
     * @param array<int, int> $bids  tick → lots
     * @param array<int, int> $asks  tick → lots
     * @param int             $after columns that ended later than this (ms since 1970 UTC) are told
     *
     * @return array<string, mixed>
     */
    public static function of(string $contract, DepthHistory $depth, array $bids, array $asks, int $after): array
    {
        $columns = [];
        foreach (DepthStep::cases() as $step) {
            foreach (array_slice($depth->between($step, $after, PHP_INT_MAX), -self::MAX) as $column) {
                $columns[] = ['step' => $step->value] + self::column($column);
            }
        }
        $sums = [];
        foreach (self::WITHIN as $within) {
            $sum = DepthSums::of($bids, $asks, $within);
            $sums[] = [$within, $sum->bids, $sum->asks, $sum->imbalance()];
        }

        $just = $depth->justTraded(self::JUST_MS);

        return [
            'contract' => $contract,
            'just' => array_map(static fn(int $tick, array $lots): array => [$tick, ...$lots], array_keys($just), $just),
            'columns' => $columns, 'sums' => $sums, 'changed' => DepthChange::of($depth),
            'unusual' => $depth->typical->unusual(), 'full' => $depth->typical->percentile(99),
        ];
    }

    /**
     * @return array{at: int, from: int, lots: list<int>, trades: list<array{int, int, int}>} when it ended (ms since 1970 UTC),
     *     lots at each tick from `from` up, and tick, lots bought, lots sold
     */
    public static function column(DepthColumn $column): array
    {
        return [
            'at' => $column->at, 'from' => $column->from, 'lots' => $column->run(),
            'trades' => array_map(
                static fn(int $tick, array $lots): array => [$tick, ...$lots],
                array_keys($column->trades()),
                $column->trades(),
            ),
        ];
    }
}
