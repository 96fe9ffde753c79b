<?php

declare(strict_types=1);

namespace Lotrik\Desk;

use Lotrik\Venue\RestingDepth;

/** The market of each contract as the desk sees it. */
final class Quotes
{
    /** @var array<string, Quote> */
    private array $quotes = [];

    /** @var array<string, RestingDepth> */
    private array $depths = [];

    public function of(string $contract): Quote
    {
        return $this->quotes[$contract] ??= new Quote();
    }

    /** Whose depth rests in a contract: its venue says. */
    public function follow(string $contract, RestingDepth $depth): void
    {
        $this->depths[$contract] = $depth;
    }

    /** Null where nobody says what rests there. */
    public function depth(string $contract): ?RestingDepth
    {
        return $this->depths[$contract] ?? null;
    }

    public function restore(string $contract, Quote $quote): void
    {
        $this->quotes[$contract] = $quote;
    }
}
