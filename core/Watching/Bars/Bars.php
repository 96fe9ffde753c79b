<?php

declare(strict_types=1);

namespace Lotrik\Watching\Bars;

use Lotrik\Watching\RecentPrints;

/**
 * The series of bars of one contract that somebody looks at. One that is asked for is begun with the prints that are
 * at hand and then goes on with each print; those not asked for longest are given up.
 */
final class Bars
{
    private const SERIES = 12;

    /** @var array<string, BarSeries> least recently asked for first */
    private array $series = [];

    public function __construct(private readonly RecentPrints $prints) {}

    public function add(int $at, int $tick, int $lots): void
    {
        foreach ($this->series as $series) {
            $series->add($at, $tick, $lots);
        }
    }

    public function of(BarKind $kind, int $size): BarSeries
    {
        $key = "{$kind->value} $size";
        $series = $this->series[$key] ?? null;
        if ($series === null) {
            $series = new BarSeries($kind, $size);
            foreach ($this->prints->all() as [$at, $tick, $lots]) {
                $series->add($at, $tick, $lots);
            }
        }
        unset($this->series[$key]);
        $this->series[$key] = $series;
        $this->series = array_slice($this->series, -self::SERIES);

        return $series;
    }
}
