<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Brick\Math\BigRational;

/** What an account has realised and paid since its trading day began, or since it was opened. */
final class DayTally
{
    /** in place of a day, for all that there ever was */
    public const ALL = 0;

    private int $day = self::ALL;

    /** @var array<string, BigRational> contract → ticks × lots, gross */
    private array $ticks = [];

    /** @var array<string, int> contract → lots that paid a side's fee */
    private array $lots = [];

    /** @param int $day when the day began, ms since 1970 UTC */
    public function add(int $day, string $contract, BigRational $ticks, int $lots): void
    {
        if ($day !== $this->day) {
            $this->day = $day;
            $this->ticks = $this->lots = [];
        }
        $this->ticks[$contract] = ($this->ticks[$contract] ?? BigRational::zero())->plus($ticks)->simplified();
        $this->lots[$contract] = ($this->lots[$contract] ?? 0) + $lots;
    }

    /**
     * @param int $day when the day began, ms since 1970 UTC
     *
     * @return array<string, array{BigRational, int}> contract → realised ticks × lots, lots filled
     */
    public function of(int $day): array
    {
        if ($day !== $this->day) {
            return [];
        }
        $tally = [];
        foreach ($this->ticks as $contract => $ticks) {
            $tally[$contract] = [$ticks, $this->lots[$contract]];
        }

        return $tally;
    }
}
