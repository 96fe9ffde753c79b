<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

/** The answer to a command that was taken: now, or (repeated) when its client id was first used. */
final readonly class Answer
{
    /** @param array<string, mixed> $body */
    public function __construct(public array $body, public bool $repeated) {}
}
