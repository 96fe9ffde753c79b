<?php

declare(strict_types=1);

namespace Lotrik\Desk;

/** What is remembered of a command that was taken, by its client id. */
final readonly class Taken
{
    /** @param array<string, mixed> $answer */
    public function __construct(public string $op, public string $fingerprint, public array $answer) {}
}
