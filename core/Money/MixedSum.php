<?php

declare(strict_types=1);

namespace Lotrik\Money;

/**
 * A sum over several currencies. Each is added up by itself and turned into the base once, in the end: nothing is rounded on the
 * way, so it comes to the same as turning every amount.
 */
final class MixedSum
{
    /** @var array<string, Money> by currency code */
    private array $byCurrency = [];

    public function add(Money $money): void
    {
        $before = $this->byCurrency[$money->currency->code] ?? null;
        $this->byCurrency[$money->currency->code] = $before === null ? $money : $before->plus($money);
    }

    public function in(RateTable $rates): Money
    {
        $sum = Money::zero($rates->base);
        foreach ($this->byCurrency as $money) {
            $sum = $sum->plus($rates->toBase($money));
        }

        return $sum;
    }
}
