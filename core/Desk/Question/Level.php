<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

/** A price that an order would rest or be set off at, in ticks, and where it stood before. */
final readonly class Level
{
    /** @param string $pointer to the field that asks for it */
    public function __construct(public int $tick, public string $pointer, public ?int $was = null) {}
}
