<?php

declare(strict_types=1);

namespace Lotrik\Desk\Flatten;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Risk\ProtectedLots;

/** How far a flatten has come. Whoever asked reads "flat" only where nothing is open. */
final readonly class FlattenProgress
{
    public bool $isUnderWay;

    /** @var list<string> prices of the stops that are still there */
    public array $stops;

    public string $words;

    public function __construct(public AccountPosition $holding, Contract $contract)
    {
        $left = abs($holding->position->lots);
        $stops = array_map(static fn(ProtectedLots $part): string => $contract->price($part->stop), $holding->coverage()->protected());
        $this->isUnderWay = $holding->isClosingDown();
        $this->stops = array_values(array_unique($stops));
        $this->words = $left === 0
            ? 'flat'
            : "not flat: $left left".($this->stops === [] ? ', no stop' : ', stop '.implode(' and ', $this->stops));
    }
}
