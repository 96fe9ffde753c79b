<?php

declare(strict_types=1);

namespace Lotrik\Watching\Depth;

/**
 * What rested at each price over one stretch of time, and what traded in it. The lots of neighbouring prices are kept
 * as one string of 16-bit numbers, so that a whole session fits into memory; a level larger than that is cut there.
 */
final readonly class DepthColumn
{
    private const MAX = 0xFFFF;

    /** Prices in a column: the market may have gone through its window while a long one came about. */
    private const WIDEST = 4 * DepthWindow::TICKS;

    /** @param string $trades packed too: tick, lots bought, lots sold, each 64 bits */
    private function __construct(public int $at, public int $from, private string $lots, private string $trades) {}

    /**
     * @param int                         $at     when the stretch ended, ms since 1970 UTC
     * @param array<int, int>             $levels tick → lots, none of them 0
     * @param array<int, array{int, int}> $trades tick → lots bought, lots sold
     */
    public static function of(int $at, array $levels, array $trades): self
    {
        $packed = '';
        foreach ($trades as $tick => [$bought, $sold]) {
            $packed .= pack('P3', $tick, $bought, $sold);
        }
        if ($levels === []) {
            return new self($at, 0, '', $packed);
        }
        $ticks = array_keys($levels);
        sort($ticks);
        if ($ticks[count($ticks) - 1] - $ticks[0] >= self::WIDEST) {
            $middle = $ticks[intdiv(count($ticks), 2)];
            $levels = array_filter($levels, static fn(int $tick): bool => abs($tick - $middle) < self::WIDEST / 2, ARRAY_FILTER_USE_KEY);
            $ticks = array_keys($levels);
            sort($ticks);
        }
        $from = (int) reset($ticks);
        $run = array_fill(0, (int) end($ticks) - $from + 1, 0);
        foreach ($levels as $tick => $lots) {
            $run[$tick - $from] = $lots > self::MAX ? self::MAX : $lots;
        }

        return new self($at, $from, pack('v*', ...$run), $packed);
    }

    /** @return array<int, array{int, int}> tick → lots bought, lots sold by whoever took */
    public function trades(): array
    {
        $trades = [];
        /** @var list<int> $numbers */
        $numbers = $this->trades === '' ? [] : array_values((array) unpack('P*', $this->trades));
        for ($i = 0; $i < count($numbers); $i += 3) {
            $trades[$numbers[$i]] = [$numbers[$i + 1], $numbers[$i + 2]];
        }

        return $trades;
    }

    /** @return list<int> lots at each price from {@see $from} up, 0 where none rest */
    public function run(): array
    {
        /** @var list<int> $lots */
        $lots = array_values((array) unpack('v*', $this->lots));

        return $lots;
    }

    /** @return array<int, int> tick → lots, none of them 0 */
    public function levels(): array
    {
        $levels = [];
        foreach ($this->run() as $i => $lots) {
            if ($lots > 0) {
                $levels[$this->from + $i] = $lots;
            }
        }

        return $levels;
    }

    /** To be given to {@see unpack()}: how long it is, when, from which tick, how many trades; lots; trades. */
    public function pack(): string
    {
        return pack('P4', strlen($this->lots), $this->at, $this->from, intdiv(strlen($this->trades), 24)).$this->lots.$this->trades;
    }

    /** Packed columns, one behind the other, as if all of them had ended so many ms later. */
    public static function later(string $packed, int $ms): string
    {
        for ($offset = 0; $offset < strlen($packed);) {
            /** @var array{1: int, 2: int, 3: int, 4: int} $head */
            $head = unpack('P4', $packed, $offset);
            $at = pack('P', $head[2] + $ms);
            for ($i = 0; $i < 8; $i++) {
                $packed[$offset + 8 + $i] = $at[$i];
            }
            $offset += 32 + $head[1] + 24 * $head[4];
        }

        return $packed;
    }

    /** @param int $offset where it begins; moved to behind it */
    public static function unpack(string $packed, int &$offset): self
    {
        /** @var array{1: int, 2: int, 3: int, 4: int} $head */
        $head = unpack('P4', $packed, $offset);
        [$length, $at, $from, $count] = array_values($head);
        // Builds before there was a window kept whatever rested anywhere.
        $lots = $length > 2 * self::WIDEST ? '' : substr($packed, $offset + 32, $length);
        $trades = substr($packed, $offset + 32 + $length, 24 * $count);
        $offset += 32 + $length + 24 * $count;

        return new self($at, $from, $lots, $trades);
    }
}
