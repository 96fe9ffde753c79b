<?php

declare(strict_types=1);

namespace Lotrik\Watching;

/**
 * What rested at each price over one stretch of time, and what traded in it. The lots of neighbouring prices are kept
 * as one string of 16-bit numbers, so that a whole session fits into memory; a level larger than that is cut there.
 */
final readonly class DepthColumn
{
    private const MOST = 0xFFFF;

    /** @param array<int, array{int, int}> $trades tick → lots bought, lots sold */
    private function __construct(public int $at, public int $from, private string $lots, public array $trades) {}

    /**
     * @param int                         $at     when the stretch ended, ms since 1970 UTC
     * @param array<int, int>             $levels tick → lots, none of them 0
     * @param array<int, array{int, int}> $trades tick → lots bought, lots sold
     */
    public static function of(int $at, array $levels, array $trades): self
    {
        if ($levels === []) {
            return new self($at, 0, '', $trades);
        }
        $from = min(array_keys($levels));
        $lots = '';
        for ($tick = $from, $to = max(array_keys($levels)); $tick <= $to; $tick++) {
            $lots .= pack('v', min(self::MOST, $levels[$tick] ?? 0));
        }

        return new self($at, $from, $lots, $trades);
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
        $trades = '';
        foreach ($this->trades as $tick => [$bought, $sold]) {
            $trades .= pack('P3', $tick, $bought, $sold);
        }

        return pack('P4', strlen($this->lots), $this->at, $this->from, count($this->trades)).$this->lots.$trades;
    }

    /** @param int $offset where it begins; moved to behind it */
    public static function unpack(string $packed, int &$offset): self
    {
        /** @var array{1: int, 2: int, 3: int, 4: int} $head */
        $head = unpack('P4', $packed, $offset);
        [$length, $at, $from, $count] = array_values($head);
        $lots = substr($packed, $offset + 32, $length);
        $offset += 32 + $length;
        $trades = [];
        /** @var list<int> $numbers */
        $numbers = $count === 0 ? [] : array_values((array) unpack('P'.(3 * $count), $packed, $offset));
        for ($i = 0; $i < 3 * $count; $i += 3) {
            $trades[$numbers[$i]] = [$numbers[$i + 1], $numbers[$i + 2]];
        }
        $offset += 24 * $count;

        return new self($at, $from, $lots, $trades);
    }
}
