<?php

declare(strict_types=1);

namespace Lotrik\Money;

use Brick\Math\BigDecimal;

/** How much one unit of each currency is worth in the base currency; totals of an account are shown through it. */
final readonly class RateTable
{
    /** @param array<string, Fraction> $rates units of the base for one unit of the code */
    private function __construct(public Currency $base, private array $rates) {}

    /** @param array<string, string> $rates such as `['USD' => '0.91']`, each above zero */
    public static function of(Currency $base, array $rates): self
    {
        $table = [$base->code => Fraction::of(1)];
        foreach ($rates as $code => $rate) {
            $decimal = BigDecimal::of($rate);
            if ($decimal->isNegativeOrZero()) {
                throw new \DomainException("the rate of $code is $rate; a rate is above zero");
            }
            $table[Currency::of($code)->code] = Fraction::of($decimal);
        }

        return new self($base, $table);
    }

    public function knows(Currency $currency): bool
    {
        return isset($this->rates[$currency->code]);
    }

    public function toBase(Money $money): Money
    {
        return $money->currency->is($this->base)
            ? $money
            : $money->at($this->rate($money->currency), $this->base);
    }

    public function fromBase(Money $money, Currency $currency): Money
    {
        return Money::of($money->amount()->dividedBy($this->rate($currency)->rational()), $currency);
    }

    private function rate(Currency $currency): Fraction
    {
        return $this->rates[$currency->code]
            ?? throw new \DomainException("no rate from {$currency->code} to {$this->base->code} in the account's table");
    }
}
