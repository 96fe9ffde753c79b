<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Money\Fraction;

/**
 * What an account has realised and paid since its trading day began, or since it was opened. Lots that were carried over the roll
 * count from the mark at the roll, as a futures account is settled: what they had won or lost by then belongs to the day before.
 */
final class DayTally
{
    /** in place of a day, for all that there ever was */
    public const ALL = 0;

    private int $day = self::ALL;

    /** @var array<string, Fraction> contract → ticks × lots, gross */
    private array $ticks = [];

    /** @var array<string, int> contract → lots that paid a side's fee */
    private array $lots = [];

    /** @var array<string, array{Fraction, int}> contract → what lots that were carried over had won at the roll, in ticks × lots, and how many of them are open */
    private array $carried = [];

    /** @var array{int, array<string, Fraction>, array<string, int>, array<string, Fraction>}|null the day before: when it began, ticks, lots, and what was open at its end */
    private ?array $before = null;

    /** When the day began that it counts, ms since 1970 UTC. */
    public function day(): int
    {
        return $this->day;
    }

    /**
     * A day begins with lots open.
     *
     * @param int                                 $day     when, ms since 1970 UTC
     * @param array<string, array{Fraction, int}> $carried contract → what they have won, in ticks × lots, and how many
     */
    public function begin(int $day, array $carried): void
    {
        $this->turnTo($day, array_map(static fn(array $of): Fraction => $of[0], $carried));
        $this->carried = $carried;
    }

    /**
     * @param int      $day   when the day began, ms since 1970 UTC
     * @param Fraction $ticks × lots that a fill has realised
     * @param int      $lots   of the fill
     * @param int      $closes lots of it that close
     */
    public function add(int $day, string $contract, Fraction $ticks, int $lots, int $closes = 0): void
    {
        if ($day !== $this->day) {
            $this->turnTo($day, []);
        }
        [$won, $open] = $this->carried[$contract] ?? [Fraction::zero(), 0];
        $gone = min($open, $closes);
        if ($gone > 0) {
            $part = $won->times(Fraction::ratio($gone, $open));
            $this->carried[$contract] = [$won->minus($part), $open - $gone];
            $ticks = $ticks->minus($part);
        }
        $this->ticks[$contract] = ($this->ticks[$contract] ?? Fraction::zero())->plus($ticks);
        $this->lots[$contract] = ($this->lots[$contract] ?? 0) + $lots;
    }

    /** @param array<string, Fraction> $open contract → what is open at the roll has won, in ticks × lots */
    private function turnTo(int $day, array $open): void
    {
        foreach ($this->carried as $contract => [$won]) {
            if (isset($open[$contract])) {
                $open[$contract] = $open[$contract]->minus($won);
            }
        }
        $this->before = $this->day === self::ALL ? null : [$this->day, $this->ticks, $this->lots, $open];
        $this->day = $day;
        $this->ticks = $this->lots = $this->carried = [];
    }

    /**
     * @param int $day when the day began, ms since 1970 UTC: the present one, or the last one before that it counted
     *
     * @return array<string, array{Fraction, int}> contract → realised ticks × lots, lots filled
     */
    public function of(int $day): array
    {
        $ticks = $lots = [];
        if ($day === $this->day) {
            [$ticks, $lots] = [$this->ticks, $this->lots];
        } elseif ($this->before !== null && $day === $this->before[0]) {
            [, $ticks, $lots] = $this->before;
        }
        $tally = [];
        foreach ($ticks as $contract => $of) {
            $tally[$contract] = [$of, $lots[$contract]];
        }

        return $tally;
    }

    /**
     * What lots that are open had won when the day began: it is no gain of this day.
     *
     * @return array<string, Fraction> contract → ticks × lots
     */
    public function carried(int $day): array
    {
        return $day === $this->day ? array_map(static fn(array $of): Fraction => $of[0], $this->carried) : [];
    }

    /**
     * What was open when a day before ended had won in it.
     *
     * @return array<string, Fraction> contract → ticks × lots
     */
    public function openAtEnd(int $day): array
    {
        return $this->before !== null && $day === $this->before[0] ? $this->before[3] : [];
    }
}
