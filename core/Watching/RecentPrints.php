<?php

declare(strict_types=1);

namespace Lotrik\Watching;

/** The last prints of one contract, kept in memory alone: what a plan can be tried on. */
final class RecentPrints
{
    private const KEPT = 3000;

    /** @var array<int, array{int, int, int}> ms since 1970 UTC, tick, lots; a ring, the oldest at `$next` once it is full */
    private array $ring = [];

    private int $next = 0;

    public function add(int $at, int $tick, int $lots): void
    {
        $this->ring[$this->next] = [$at, $tick, $lots];
        $this->next = ($this->next + 1) % self::KEPT;
    }

    public function clear(): void
    {
        [$this->ring, $this->next] = [[], 0];
    }

    /** @return list<array{int, int, int}> oldest first */
    public function all(): array
    {
        return count($this->ring) < self::KEPT ? array_values($this->ring) : [...array_slice($this->ring, $this->next), ...array_slice($this->ring, 0, $this->next)];
    }
}
