<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Contract\Contract;
use Lotrik\Money\Fraction;
use Lotrik\Money\Money;
use Lotrik\Money\RateTable;

/** What an account has realised and paid in fees since its day began, in its base currency. */
final readonly class DayResult
{
    private function __construct(public Money $realised, public Money $fees) {}

    public function net(): Money
    {
        return $this->realised->minus($this->fees);
    }

    /** @param iterable<array{Contract, Fraction, int}> $tally contract, realised ticks × lots, lots that paid a side's fee */
    public static function of(RateTable $rates, iterable $tally): self
    {
        $realised = $fees = Money::zero($rates->base);
        foreach ($tally as [$contract, $ticks, $lots]) {
            $realised = $realised->plus($rates->toBase($contract->money($ticks)));
            $fees = $fees->plus($rates->toBase($contract->fees($lots)));
        }

        return new self($realised, $fees);
    }
}
