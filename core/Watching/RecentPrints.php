<?php

declare(strict_types=1);

namespace Lotrik\Watching;

use Lotrik\Order\Side;

/** The last prints of one contract, kept in memory alone: what a plan can be tried on. */
final class RecentPrints
{
    private const KEPT = 3000;

    /** @var array<int, array{int, int, int, int}> ms since 1970 UTC, tick, lots, 1 bought or -1 sold by whoever took; a ring, the oldest at `$next` once it is full */
    private array $ring = [];

    private int $next = 0;

    public function add(int $at, int $tick, int $lots, Side $aggressor): void
    {
        $this->ring[$this->next] = [$at, $tick, $lots, $aggressor->sign()];
        $this->next = ($this->next + 1) % self::KEPT;
    }

    public function clear(): void
    {
        [$this->ring, $this->next] = [[], 0];
    }

    /** @return list<array{int, int, int, int}> ms since 1970 UTC, tick, lots, 1 bought or -1 sold; oldest first */
    public function all(): array
    {
        return count($this->ring) < self::KEPT ? array_values($this->ring) : [...array_slice($this->ring, $this->next), ...array_slice($this->ring, 0, $this->next)];
    }
}
