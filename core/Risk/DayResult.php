<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Contract\Contract;
use Lotrik\Money\Fraction;
use Lotrik\Money\MixedSum;
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
        [$realised, $fees] = [new MixedSum(), new MixedSum()];
        foreach ($tally as [$contract, $ticks, $lots]) {
            $realised->add($contract->money($ticks));
            $fees->add($contract->fees($lots));
        }

        return new self($realised->in($rates), $fees->in($rates));
    }
}
