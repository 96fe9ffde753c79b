<?php

declare(strict_types=1);

namespace Tests\Support;

/** Waits for a condition, never for a time; the limit is far beyond what a slow machine takes. */
final class Wait
{
    /** @param callable(): bool $condition */
    public static function until(callable $condition, string $what, float $seconds = 30): void
    {
        $end = microtime(true) + $seconds;
        while (! $condition()) {
            if (microtime(true) > $end) {
                throw new \RuntimeException("waited $seconds s in vain for $what");
            }
            usleep(25_000);
        }
    }
}
