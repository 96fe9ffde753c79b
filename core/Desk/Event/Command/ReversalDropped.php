<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Command;

use Lotrik\Desk\Event\Event;

/** The contract is flat, and the other half of the reversal was refused when its turn came: nothing is entered. */
final readonly class ReversalDropped implements Event
{
    public const TYPE = 'reversal-dropped';

    public function __construct(
        public int $account,
        public string $contract,
        /** code of the refusal */
        public string $code,
        public string $because,
    ) {}
}
