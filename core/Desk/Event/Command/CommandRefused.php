<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Command;

use Lotrik\Desk\Event\Event;

/** A command was refused and changed nothing; its client id is not used up. */
final readonly class CommandRefused implements Event
{
    public const TYPE = 'refused';

    public function __construct(
        public int $account,
        public ?string $contract,
        public string $op,
        public string $clientId,
        public string $code,
        public string $words,
        public ?string $pointer = null,
    ) {}
}
