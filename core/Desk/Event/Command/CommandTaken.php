<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Command;

use Lotrik\Desk\Event\Event;

/** A command was taken; its client id and what it was are kept, so that sending it again does nothing more. */
final readonly class CommandTaken implements Event
{
    public const TYPE = 'command';

    public function __construct(
        public int $account,
        public ?string $contract,
        public string $op,
        public string $clientId,
        public string $fingerprint,
        /** @var array<string, mixed> */ public array $answer,
        public string $words,
    ) {}
}
