<?php

declare(strict_types=1);

namespace App\Engine\Loop;

/** Something that takes longer than a turn may: done bit by bit, so that orders go between. */
interface Job
{
    /** @return bool false when all of it is done */
    public function advance(EngineClock $clock): bool;

    /** @return array{status: int, body: array<array-key, mixed>} once it is done, and what it did is committed */
    public function answer(): array;
}
