<?php

declare(strict_types=1);

namespace Lotrik\Watching\Depth;

use Lotrik\Order\Side;

/**
 * One contract's resting lots at each price through time, with what traded there, in columns of three lengths. A
 * column of 250 ms holds what rested when it ended; a longer one the most that rested at a price in any of the
 * shorter ones, so that a wall that stood for a moment is seen from afar too.
 */
final class DepthHistory
{
    /** @var array<int, array<int, DepthColumn>> length in ms → columns, numbered from 0, the first ever made */
    private array $columns = [];

    /** @var array<int, int> length in ms → number of the next column */
    private array $next = [];

    /** @var array<int, array<int, int>> length in ms → tick → the most that has rested since the last column */
    private array $most = [];

    /** @var array<int, array<int, array{int, int}>> length in ms → tick → lots bought and sold since the last column */
    private array $trades = [];

    public readonly TypicalDepth $typical;

    public function __construct()
    {
        $this->typical = new TypicalDepth();
    }

    public function trade(int $tick, int $lots, Side $aggressor): void
    {
        $bought = $aggressor === Side::Buy ? $lots : 0;
        $this->traded(DepthStep::Quarter, $tick, $bought, $lots - $bought);
    }

    /**
     * Ends a column of the shortest length, and the longer ones that are due.
     *
     * @param int             $at     ms since 1970 UTC; while the clock stands there is no new column
     * @param array<int, int> $levels tick → lots that rest now, none of them 0
     */
    public function sample(int $at, array $levels): void
    {
        if ($at <= ($this->last()->at ?? 0)) {
            return;
        }
        $this->typical->add($levels);
        $this->most[DepthStep::Quarter->value] = $levels;
        for ($step = DepthStep::Quarter; $step !== null; $step = $step->longer()) {
            $due = intdiv($at, $step->value);
            $last = $this->last($step);
            if ($step !== DepthStep::Quarter && $last !== null && intdiv($last->at, $step->value) === $due) {
                return;
            }
            $this->end($step, $at);
        }
    }

    public function last(DepthStep $step = DepthStep::Quarter): ?DepthColumn
    {
        return $this->columns[$step->value][($this->next[$step->value] ?? 0) - 1] ?? null;
    }

    /**
     * What has just traded at each price: against what still rests there it says who absorbs whom.
     *
     * @return array<int, array{int, int}> tick → lots bought, lots sold by whoever took, in the last so many ms and since
     */
    public function justTraded(int $ms): array
    {
        $sums = $this->unsampled();
        foreach ($this->between(DepthStep::Quarter, ($this->last()->at ?? 0) - $ms, PHP_INT_MAX) as $column) {
            foreach ($column->trades() as $tick => [$bought, $sold]) {
                $there = $sums[$tick] ?? [0, 0];
                $sums[$tick] = [$there[0] + $bought, $there[1] + $sold];
            }
        }

        return $sums;
    }

    /** @return array<int, array{int, int}> tick → lots bought and sold since the last column ended */
    public function unsampled(): array
    {
        return $this->trades[DepthStep::Quarter->value] ?? [];
    }

    public function oldest(DepthStep $step): ?DepthColumn
    {
        $columns = $this->columns[$step->value] ?? [];

        return $columns[array_key_first($columns) ?? 0] ?? null;
    }

    /** The column of 250 ms that stood so long before the last one; the oldest where it does not go back so far. */
    public function before(int $ms): ?DepthColumn
    {
        $columns = $this->columns[DepthStep::Quarter->value] ?? [];
        $at = ($this->last()->at ?? 0) - $ms;
        for ($i = ($this->next[DepthStep::Quarter->value] ?? 0) - 1; isset($columns[$i]); $i--) {
            if ($columns[$i]->at <= $at) {
                return $columns[$i];
            }
        }

        return $this->oldest(DepthStep::Quarter);
    }

    /**
     * Columns of a length that ended after one time and not after another, oldest first.
     *
     * @return list<DepthColumn>
     */
    public function between(DepthStep $step, int $after, int $until): array
    {
        $found = [];
        $columns = $this->columns[$step->value] ?? [];
        for ($i = ($this->next[$step->value] ?? 0) - 1; isset($columns[$i]) && $columns[$i]->at > $after; $i--) {
            if ($columns[$i]->at <= $until) {
                $found[] = $columns[$i];
            }
        }

        return array_reverse($found);
    }

    private function end(DepthStep $step, int $at): void
    {
        $key = $step->value;
        $levels = $this->most[$key] ?? [];
        $trades = $this->trades[$key] ?? [];
        $column = DepthColumn::of($at, $levels, $trades);
        $number = $this->next[$key] ?? 0;
        $this->columns[$key][$number] = $column;
        $this->next[$key] = $number + 1;
        unset($this->columns[$key][$number - $step->kept()], $this->most[$key], $this->trades[$key]);
        $longer = $step->longer();
        if ($longer === null) {
            return;
        }
        $this->fold($levels, $trades, $longer);
    }

    /**
     * @param array<int, int>             $levels tick → lots
     * @param array<int, array{int, int}> $trades tick → lots bought, lots sold
     */
    private function fold(array $levels, array $trades, DepthStep $longer): void
    {
        $most = $this->most[$longer->value] ?? [];
        foreach ($levels as $tick => $lots) {
            if ($lots > ($most[$tick] ?? 0)) {
                $most[$tick] = $lots;
            }
        }
        $this->most[$longer->value] = $most;
        foreach ($trades as $tick => [$bought, $sold]) {
            $this->traded($longer, $tick, $bought, $sold);
        }
    }

    private function traded(DepthStep $step, int $tick, int $bought, int $sold): void
    {
        $there = $this->trades[$step->value][$tick] ?? [0, 0];
        $this->trades[$step->value][$tick] = [$there[0] + $bought, $there[1] + $sold];
    }

    /** How many columns of a length there have ever been. */
    public function made(DepthStep $step): int
    {
        return $this->next[$step->value] ?? 0;
    }

    /** The columns of a length from a number on, packed; 0 is the first ever made. */
    public function packAfter(DepthStep $step, int $number): string
    {
        $packed = '';
        for ($i = max($number, $this->made($step) - $step->kept()); $i < $this->made($step); $i++) {
            $packed .= $this->columns[$step->value][$i]->pack();
        }

        return $packed;
    }

    /** @param int $made how many columns of the length there were when {@see packAfter()} gave this */
    public function unpack(DepthStep $step, int $made, string $packed): void
    {
        $columns = [];
        for ($offset = 0; $offset < strlen($packed);) {
            $columns[] = DepthColumn::unpack($packed, $offset);
        }
        $there = $this->columns[$step->value] ?? [];
        $next = max($made, $this->next[$step->value] ?? 0);
        $numbered = [];
        foreach ($columns as $i => $column) {
            $number = $made - count($columns) + $i;
            if ($number >= $next - $step->kept()) {
                $numbered[$number] = $column;
            }
        }
        // They stand in the order of their numbers, whichever came first.
        $this->columns[$step->value] = $there === [] || array_key_first($there) >= $made ? $numbered + $there : $there + $numbered;
        $this->next[$step->value] = $next;
        foreach ($this->columns[$step->value] as $number => $column) {
            if ($number >= $next - $step->kept()) {
                break;
            }
            unset($this->columns[$step->value][$number]);
        }
    }

    /** Once all columns are back: what the next ones are put together from. */
    public function resume(): void
    {
        foreach (DepthStep::cases() as $step) {
            $longer = $step->longer();
            if ($longer === null) {
                continue;
            }
            foreach ($this->between($step, $this->last($longer)->at ?? 0, PHP_INT_MAX) as $column) {
                $this->fold($column->levels(), $column->trades(), $longer);
            }
        }
        foreach (array_slice($this->columns[DepthStep::Quarter->value] ?? [], -TypicalDepth::SAMPLES) as $column) {
            $this->typical->add($column);
        }
    }

    /** @param array<int, array{int, int}> $trades tick → lots bought and sold since the last column ended */
    public function resumeTrades(array $trades): void
    {
        $this->trades[DepthStep::Quarter->value] = $trades;
    }
}
