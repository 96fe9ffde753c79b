<?php

declare(strict_types=1);

namespace Lotrik\Watching\Bars;

/** What traded in one stretch of time. Prices in ticks, the start in ms since 1970 UTC. */
final class Bar
{
    public function __construct(
        public readonly int $start,
        public readonly int $open,
        public int $high,
        public int $low,
        public int $close,
        public int $lots,
    ) {}

    public function add(self $later): void
    {
        $this->high = max($this->high, $later->high);
        $this->low = min($this->low, $later->low);
        $this->close = $later->close;
        $this->lots += $later->lots;
    }

    public function range(): int
    {
        return $this->high - $this->low;
    }

    /** @return list<int> */
    public function pack(): array
    {
        return [$this->start, $this->open, $this->high, $this->low, $this->close, $this->lots];
    }
}
