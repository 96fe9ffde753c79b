<?php

declare(strict_types=1);

namespace Lotrik\Watching\Bars;

/**
 * One contract's bars of a minute, from which all longer bars by time are put together. A minute without a trade has
 * no bar. The last day or so is kept.
 */
final class MinuteBars
{
    private const MINUTE = 60_000;

    private const KEPT = 1500;

    /** @var list<Bar> the last one may still be open */
    private array $bars = [];

    /** @param int $at ms since 1970 UTC, never before the last one */
    public function add(int $at, int $tick, int $lots): void
    {
        $start = $at - $at % self::MINUTE;
        $print = new Bar($start, $tick, $tick, $tick, $tick, $lots);
        $last = $this->bars[count($this->bars) - 1] ?? null;
        if ($last !== null && $last->start === $start) {
            $last->add($print);

            return;
        }
        $this->bars[] = $print;
        if (count($this->bars) > self::KEPT) {
            array_shift($this->bars);
        }
    }

    /**
     * Bars of a size that had closed by a time, oldest first. The first one may lack its beginning.
     *
     * @param int $at ms since 1970 UTC
     *
     * @return list<Bar>
     */
    public function closed(BarSize $size, int $at): array
    {
        return array_values(array_filter($this->together($size), static fn(Bar $bar): bool => $bar->start + $size->ms() <= $at));
    }

    /** @return list<Bar> of a size, oldest first; the last one may still be open */
    public function together(BarSize $size): array
    {
        $bars = [];
        $last = null;
        foreach ($this->bars as $minute) {
            $start = $minute->start - $minute->start % $size->ms();
            if ($last !== null && $last->start === $start) {
                $last->add($minute);
            } else {
                $bars[] = $last = new Bar($start, $minute->open, $minute->high, $minute->low, $minute->close, $minute->lots);
            }
        }

        return $bars;
    }

    /** When the newest bar began, ms since 1970 UTC: the bars before it change no more. */
    public function newest(): int
    {
        return $this->bars === [] ? 0 : $this->bars[count($this->bars) - 1]->start;
    }

    /** @return list<int>|null the newest bar, which may still be open */
    public function packNewest(): ?array
    {
        return $this->bars === [] ? null : $this->bars[count($this->bars) - 1]->pack();
    }

    /** @return list<list<int>> the bars before the newest one */
    public function packEarlier(): array
    {
        return array_map(static fn(Bar $b): array => $b->pack(), array_slice($this->bars, 0, -1));
    }

    /**
     * @param list<array{int, int, int, int, int, int}> $earlier bars before those that are here already; newer ones are left out
     * @param array{int, int, int, int, int, int}|null  $newest
     */
    public function restore(array $earlier, ?array $newest): void
    {
        $bars = array_map(static fn(array $b): Bar => new Bar(...$b), $newest === null ? $earlier : [...$earlier, $newest]);
        $first = $this->bars[0]->start ?? PHP_INT_MAX;
        $this->bars = [...array_filter($bars, static fn(Bar $b): bool => $b->start < $first), ...$this->bars];
    }
}
