<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Command;

use Lotrik\Desk\Event\Event;

/** Nothing is open or working any more in the contract. */
final readonly class FlattenEnded implements Event
{
    public const TYPE = 'flatten-ended';

    public function __construct(
        public int $account,
        public string $contract,
        public string $because,
    ) {}
}
