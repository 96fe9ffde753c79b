<?php

declare(strict_types=1);

namespace Lotrik\Watching\Bars;

/**
 * Bars of one kind and size, built print by print. The last one may still be open. A bar by volume holds exactly its
 * lots, so a large print goes into several; a bar by range never spans more than its ticks, and the print that would
 * stretch it opens the next one (this product's own rules where the trade has several).
 */
final class BarSeries
{
    private const KEPT = 1_000;

    /** @var list<Bar> */
    private array $bars = [];

    /** prints in the bar that is open */
    private int $prints = 0;

    /** @param int $size seconds, prints, lots or ticks; at least 1 */
    public function __construct(public readonly BarKind $kind, public readonly int $size)
    {
        if ($size < 1) {
            throw new \DomainException("a bar of size $size; the size is at least 1");
        }
    }

    /** @param int $at ms since 1970 UTC, never before the last one */
    public function add(int $at, int $tick, int $lots): void
    {
        while ($lots > 0) {
            $open = $this->bars[count($this->bars) - 1] ?? null;
            $fits = $open !== null && ! $this->isFull($open, $at, $tick);
            $part = $this->kind === BarKind::Volume ? min($lots, $fits ? $this->size - $open->lots : $this->size) : $lots;
            $start = $this->kind === BarKind::Time ? $at - $at % (1000 * $this->size) : $at;
            $bar = new Bar($start, $tick, $tick, $tick, $tick, $part);
            if ($fits) {
                $open->add($bar);
                $this->prints++;
            } else {
                $this->bars[] = $bar;
                $this->prints = 1;
            }
            $lots -= $part;
        }
        if (count($this->bars) > 2 * self::KEPT) {
            $this->bars = array_slice($this->bars, -self::KEPT);
        }
    }

    /** @return list<Bar> oldest first */
    public function last(int $most = self::KEPT): array
    {
        return array_slice($this->bars, -min($most, self::KEPT));
    }

    private function isFull(Bar $bar, int $at, int $tick): bool
    {
        return match ($this->kind) {
            BarKind::Time => $at - $at % (1000 * $this->size) !== $bar->start,
            BarKind::Trades => $this->prints >= $this->size,
            BarKind::Volume => $bar->lots >= $this->size,
            BarKind::Range => max($bar->high, $tick) - min($bar->low, $tick) > $this->size,
        };
    }
}
