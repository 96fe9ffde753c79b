<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

use Lotrik\Order\Side;

/** A drawn price line: prints of one lot, one a second, at each tick between its corners; what rises was bought, what falls was sold. */
final readonly class DrawnLine implements Prints
{
    private const APART = 1_000_000;

    /**
     * @param non-empty-list<int> $corners in ticks
     * @param int                 $start   µs since 1970 UTC
     */
    public function __construct(private array $corners, private int $start) {}

    public function prints(): \Generator
    {
        $at = $this->start;
        $aggressor = Side::Buy;
        $tick = $this->corners[0];
        foreach ($this->corners as $i => $corner) {
            $way = $corner <=> $tick;
            $aggressor = match ($way) {
                1 => Side::Buy,
                -1 => Side::Sell,
                0 => $aggressor,
            };
            // A corner where the line already is prints all the same: time goes by there.
            if ($way === 0) {
                yield TapePrint::atTheTouch($at += self::APART, $tick, 1, $aggressor);
            }
            while ($tick !== $corner) {
                yield TapePrint::atTheTouch($at += self::APART, $tick += $way, 1, $aggressor);
            }
        }
    }

    public function hasQuotes(): bool
    {
        return true;
    }
}
