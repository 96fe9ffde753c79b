<?php

declare(strict_types=1);

namespace App\Engine\Stream;

/** What all streams together hold back for clients that do not read: one budget, so that no number of them eats the engine's memory. */
final class WaitingBytes
{
    private const MAX = 67_108_864;

    private int $bytes = 0;

    public function __construct(private readonly int $most = self::MAX) {}

    public function add(int $bytes): void
    {
        $this->bytes += $bytes;
    }

    public function release(int $bytes): void
    {
        $this->bytes -= $bytes;
    }

    public function isExceeded(): bool
    {
        return $this->bytes > $this->most;
    }
}
