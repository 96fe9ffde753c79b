<?php

declare(strict_types=1);

namespace Lotrik\Watching;

use Lotrik\Order\Side;

/** The last prints of one contract: what a plan can be tried on, and what bars begin with. */
final class RecentPrints
{
    public const KEPT = 20_000;

    /**
     * @var array<int, array{int, int, int, int, int}> number → ms since 1970 UTC, tick, lots, 1 bought or -1 sold by whoever
     *     took, number
     */
    private array $prints = [];

    private int $newest = 0;

    /** Whether they stand in the order of their numbers: not where older ones have come back later. */
    private bool $isInOrder = true;

    /** @param int $number the venue's own: each is one more than the one before */
    public function add(int $number, int $at, int $tick, int $lots, Side $aggressor): void
    {
        $this->prints[$number] = [$at, $tick, $lots, $aggressor->sign(), $number];
        $this->newest = $number;
        unset($this->prints[$number - self::KEPT]);
    }

    public function newest(): int
    {
        return $this->newest;
    }

    /** @return array{int, int, int, int, int}|null the newest: ms since 1970 UTC, tick, lots, 1 bought or -1 sold, number */
    public function last(): ?array
    {
        return $this->prints[$this->newest] ?? null;
    }

    /** @return list<array{int, int, int, int, int}> ms since 1970 UTC, tick, lots, 1 bought or -1 sold, number; oldest first */
    public function all(): array
    {
        if (! $this->isInOrder) {
            ksort($this->prints);
            $this->isInOrder = true;
        }

        return array_values($this->prints);
    }

    /** @return list<array{int, int, int, int, int}> those after a number, oldest first */
    public function after(int $number): array
    {
        $found = [];
        for ($i = $this->newest; $i > $number && isset($this->prints[$i]); $i--) {
            $found[] = $this->prints[$i];
        }

        return array_reverse($found);
    }

    /**
     * The farthest that the price went between two prints that followed each other.
     *
     * @param int $since ms since 1970 UTC: the later print of the two is not before it
     *
     * @return array{int, int|null} ticks, and when the oldest print that was looked at came: later than asked where fewer are kept
     */
    public function largestJump(int $since): array
    {
        $largest = 0;
        $from = null;
        for ($i = $this->newest; isset($this->prints[$i]) && $this->prints[$i][0] >= $since; $i--) {
            $from = $this->prints[$i][0];
            $largest = max($largest, abs($this->prints[$i][1] - ($this->prints[$i - 1][1] ?? $this->prints[$i][1])));
        }

        return [$largest, $from];
    }

    /** Those after a number as 64-bit numbers: ms, tick, lots, side of each. */
    public function packAfter(int $number): string
    {
        $packed = '';
        foreach ($this->after($number) as [$at, $tick, $lots, $side]) {
            $packed .= pack('P4', $at, $tick, $lots, $side);
        }

        return $packed;
    }

    /** Packed prints as if all of them had come so many ms later. */
    public static function later(string $packed, int $ms): string
    {
        /** @var list<int> $numbers */
        $numbers = array_values((array) unpack('P*', $packed));
        for ($i = 0; $i < count($numbers); $i += 4) {
            $numbers[$i] += $ms;
        }

        return pack('P*', ...$numbers);
    }

    /**
     * Brings prints back, whichever come first.
     *
     * @param int $newest number of the last print in what {@see packAfter()} gave
     */
    public function unpack(int $newest, string $packed): void
    {
        /** @var list<int> $numbers */
        $numbers = array_values((array) unpack('P*', $packed));
        $number = $newest - intdiv(count($numbers), 4);
        $this->isInOrder = $this->isInOrder && $number >= $this->newest;
        $this->newest = max($this->newest, $newest);
        for ($i = 0; $i < count($numbers); $i += 4) {
            if (++$number > $this->newest - self::KEPT) {
                $this->prints[$number] = [$numbers[$i], $numbers[$i + 1], $numbers[$i + 2], $numbers[$i + 3], $number];
                unset($this->prints[$number - self::KEPT]);
            }
        }
    }
}
