<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal\Noise;

use Lotrik\Order\Side;
use Lotrik\Rehearsal\TapePrint;

/** Prints in time order that are looked at from many places: it finds the next one outside a band of prices without looking at each. */
final class PrintIndex
{
    private const BLOCK = 32;

    /** No price is farther from 0, in ticks. */
    private const FARTHEST = 1_000_000_000;

    /** @var list<int> ms since 1970 UTC */
    private array $times = [];

    /** @var list<int> twice the tick, one more where whoever took bought */
    private array $prints = [];

    /** @var list<int> the least of each whole block of prints */
    private array $least = [];

    /** @var list<int> the most of each */
    private array $most = [];

    /**
     * @param list<int> $times  ms since 1970 UTC
     * @param list<int> $prints twice the tick of each, one more where whoever took bought
     */
    public function add(array $times, array $prints): void
    {
        array_push($this->times, ...$times);
        array_push($this->prints, ...$prints);
        for ($from = self::BLOCK * count($this->least); $from + self::BLOCK <= count($this->prints); $from += self::BLOCK) {
            $block = array_slice($this->prints, $from, self::BLOCK);
            $this->least[] = min(PHP_INT_MAX, ...$block);
            $this->most[] = max(-PHP_INT_MAX, ...$block);
        }
    }

    public function count(): int
    {
        return count($this->prints);
    }

    /** With the quote that it gives away. */
    public function at(int $i): ?TapePrint
    {
        $print = $this->prints[$i] ?? null;

        return $print === null
            ? null
            : TapePrint::atTheTouch(1000 * $this->times[$i], $print >> 1, 1, ($print & 1) === 1 ? Side::Buy : Side::Sell);
    }

    /** Place of the first print from `$i` on that is not between the two ticks; null where all are. */
    public function next(int $i, int $above, int $below): ?int
    {
        $above = 2 * max(-self::FARTHEST, min(self::FARTHEST, $above)) + 1;
        $below = 2 * max(-self::FARTHEST, min(self::FARTHEST, $below));
        for ($end = count($this->prints); $i < $end;) {
            if ($i % self::BLOCK === 0) {
                for ($block = intdiv($i, self::BLOCK); isset($this->least[$block]) && $this->least[$block] > $above && $this->most[$block] < $below;) {
                    $block++;
                }
                $i = self::BLOCK * $block;
            }
            for ($until = min($end, $i - $i % self::BLOCK + self::BLOCK); $i < $until; $i++) {
                if ($this->prints[$i] <= $above || $this->prints[$i] >= $below) {
                    return $i;
                }
            }
        }

        return null;
    }
}
