<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\View\DepthView;
use App\Engine\View\Time;
use Brick\Math\BigDecimal;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Quote;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Watching\Bars\AverageTrueRange;
use Lotrik\Watching\Bars\Bar;
use Lotrik\Watching\Bars\BarKind;
use Lotrik\Watching\Bars\BarSize;
use Lotrik\Watching\Depth\DepthStep;
use Lotrik\Watching\Levels\LevelExits;
use Lotrik\Watching\Levels\LevelFigures;
use Lotrik\Watching\Levels\MarkedLevel;

/** What the engine remembers of one contract's market, for those who look back. Levels in ticks, times in ms since 1970 UTC. */
final class Watching
{
    /** Numbers in one answer about the depth history, so that it stays small; what is left is asked for next. */
    private const MAX_NUMBERS = 8_000;

    /** Wilder's own length. */
    private const RANGE_LENGTH = 14;

    public function __construct(private readonly Contract $contract, private readonly Quote $quote, private readonly int $at) {}

    /** @return array<string, mixed> columns that ended after one time and not after another, oldest first */
    public function depthHistory(int $step, int $after, int $until): array
    {
        $step = DepthStep::tryFrom($step) ?? throw Refusal::invalid('step', $step, '250, 2000 or 15000');
        $columns = [];
        $numbers = 0;
        $next = null;
        foreach ($this->quote->depth->between($step, $after, $until) as $column) {
            if ($numbers > self::MAX_NUMBERS) {
                $next = Time::iso($columns[count($columns) - 1]['at']);
                break;
            }
            $columns[] = $told = DepthView::column($column);
            $numbers += count($told['lots']) + 3 * count($told['trades']) + 5;
        }

        return ['step' => $step->value, 'columns' => $columns, 'next' => $next];
    }

    /** @return array<string, mixed> the last prints, newest first */
    public function tape(int $most): array
    {
        return ['items' => array_map(fn(array $print): array => [
            'at' => $print[0], 'price' => $print[1], 'size' => $print[2], 'aggressor' => $print[3] > 0 ? 'buy' : 'sell',
            'number' => $print[4],
        ], array_reverse(array_slice($this->quote->prints->all(), -$most)))];
    }

    /** @return array<string, mixed> the last bars, oldest first, and their average true range */
    public function bars(BarKind $by, int $size, int $most): array
    {
        $minutes = $by === BarKind::Time && $size % 60 === 0 ? BarSize::ofMinutes(intdiv($size, 60)) : null;
        $bars = $minutes === null ? $this->quote->series->of($by, $size)->last() : $this->quote->bars->together($minutes);
        $millionths = AverageTrueRange::of(array_slice($bars, 0, -1), self::RANGE_LENGTH);
        $range = $millionths === null ? null : BigDecimal::ofUnscaledValue(intdiv($millionths, 10_000), 2);

        return [
            'by' => $by->value, 'size' => $size,
            'bars' => array_map(static fn(Bar $bar): array => $bar->pack(), array_slice($bars, -$most)),
            'average_true_range' => $range === null ? null : $this->contract->averagePrice($range->toBigRational()),
            'average_true_range_ticks' => $range === null ? null : (string) $range,
        ];
    }

    /**
     * @param array<array-key, mixed> $levels each `[low, high, since]`
     * @param int                     $off    ticks between a level and the exits set from it
     *
     * @return array<string, mixed> the figures of each, in the order given
     */
    public function levels(array $levels, int $off): array
    {
        $figures = [];
        foreach (self::marked($levels) as $marked) {
            $watch = $this->quote->levels->of($marked);
            $now = LevelFigures::of($marked, $this->quote->depth);
            $figures[] = [
                'resting' => $now->resting, 'change_10s' => $now->change10, 'change_60s' => $now->change60, 'halved' => $now->halved,
                'bought' => $watch->bought, 'sold' => $watch->sold, 'state' => $watch->state->value,
                'distance' => $this->quote->last === null ? null : $marked->distance($this->quote->last),
                'exits' => $this->exits(new LevelExits($marked, $off)),
            ];
        }

        return ['figures' => $figures, 'at' => $this->at];
    }

    /**
     * @param array<mixed> $levels
     *
     * @return list<MarkedLevel> those of them that have to be looked for in all that is remembered
     */
    public function unknown(array $levels): array
    {
        return array_values(array_filter(self::marked($levels), fn(MarkedLevel $of): bool => ! $this->quote->levels->knows($of)));
    }

    /**
     * @param array<mixed> $levels
     *
     * @return list<MarkedLevel>
     */
    private static function marked(array $levels): array
    {
        return array_map(
            static fn(mixed $level): MarkedLevel => new MarkedLevel(...array_map(intval(...), array_values((array) $level))),
            array_values($levels),
        );
    }

    /** @return array<string, mixed> in ticks */
    private function exits(LevelExits $exits): array
    {
        [$bid, $ask] = [$this->quote->bid, $this->quote->ask];
        $next = static function (Role $exit) use ($exits, $bid, $ask): ?array {
            if ($bid === null || $ask === null) {
                return null;
            }
            [$side, $ticks] = $exits->ofNextOrder($exit, $bid, $ask);

            return ['side' => $side->value, 'ticks' => $ticks, 'level' => $exits->of($side)];
        };

        return [
            'long' => $exits->of(Side::Buy), 'short' => $exits->of(Side::Sell), 'next_stop' => $next(Role::Stop),
            'next_target' => $next(Role::Target),
        ];
    }
}
