<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal;

/** Prints that are at hand already. */
final readonly class PrintList implements Prints
{
    /** @param list<TapePrint> $prints in time order */
    public function __construct(private array $prints) {}

    /** @return list<TapePrint> */
    public function prints(): array
    {
        return $this->prints;
    }

    public function hasQuotes(): bool
    {
        return $this->prints !== [] && $this->prints[0]->bid !== null;
    }
}
