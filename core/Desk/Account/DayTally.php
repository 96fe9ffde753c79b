<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Brick\Math\BigRational;

/** What an account has realised and paid since its day began (UTC, until accounts have a trading day of their own). */
final class DayTally
{
    private string $day = '';

    /** @var array<string, BigRational> contract → ticks × lots, gross */
    private array $ticks = [];

    /** @var array<string, int> contract → lots that paid a side's fee */
    private array $lots = [];

    public function add(int $at, string $contract, BigRational $ticks, int $lots): void
    {
        $day = self::day($at);
        if ($day !== $this->day) {
            $this->day = $day;
            $this->ticks = $this->lots = [];
        }
        $this->ticks[$contract] = ($this->ticks[$contract] ?? BigRational::zero())->plus($ticks)->simplified();
        $this->lots[$contract] = ($this->lots[$contract] ?? 0) + $lots;
    }

    /** @return array<string, array{BigRational, int}> contract → realised ticks × lots, lots filled; of the day of `$at` */
    public function of(int $at): array
    {
        if (self::day($at) !== $this->day) {
            return [];
        }
        $tally = [];
        foreach ($this->ticks as $contract => $ticks) {
            $tally[$contract] = [$ticks, $this->lots[$contract]];
        }

        return $tally;
    }

    private static function day(int $at): string
    {
        return gmdate('Y-m-d', intdiv($at, 1000));
    }
}
