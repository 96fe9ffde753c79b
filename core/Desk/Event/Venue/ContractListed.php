<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Venue;

use Lotrik\Desk\Event\Event;

/** A contract can be traded from here on. */
final readonly class ContractListed implements Event
{
    public const TYPE = 'contract-listed';

    public function __construct(
        public string $contract,
        /** @var array<string, mixed> */ public array $document,
    ) {}
}
