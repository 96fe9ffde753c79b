<?php

declare(strict_types=1);

namespace Lotrik\Desk;

/** The market of each contract as the desk sees it. */
final class Quotes
{
    /** @var array<string, Quote> */
    private array $quotes = [];

    public function of(string $contract): Quote
    {
        return $this->quotes[$contract] ??= new Quote();
    }

    public function restore(string $contract, Quote $quote): void
    {
        $this->quotes[$contract] = $quote;
    }
}
