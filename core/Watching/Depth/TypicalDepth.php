<?php

declare(strict_types=1);

namespace Lotrik\Watching\Depth;

/**
 * How many lots a contract is used to at one price: counted over every price of the book, four times a second, for
 * the last two minutes. Unusual is five times the middle value (this product's own rule).
 */
final class TypicalDepth
{
    public const SAMPLES = 480;

    private const UNUSUAL = 5;

    /** @var array<int, list<int>|DepthColumn> lots of each price, a sample each; a ring */
    private array $samples = [];

    private int $next = 0;

    /** Whether the samples are in the counts: not before anybody asks, since after a start there are many. */
    private bool $isCounted = false;

    /** @var array<int, int> lots → at how many prices */
    private array $counts = [];

    private int $total = 0;

    /** @param array<int, int>|DepthColumn $levels tick → lots */
    public function add(array|DepthColumn $levels): void
    {
        if ($this->isCounted) {
            $this->count($this->samples[$this->next] ?? [], -1);
            $levels = $levels instanceof DepthColumn ? $levels->levels() : $levels;
            $this->count($levels, 1);
        }
        $this->samples[$this->next] = $levels instanceof DepthColumn ? $levels : array_values($levels);
        $this->next = ($this->next + 1) % self::SAMPLES;
    }

    /** The lots that so many of a hundred prices do not exceed (nearest rank); 0 where nothing has been seen. */
    public function percentile(int $of100): int
    {
        if (! $this->isCounted) {
            array_map(fn(array|DepthColumn $sample) => $this->count($sample, 1), $this->samples);
            $this->isCounted = true;
        }
        ksort($this->counts);
        $rank = intdiv($this->total * $of100 + 99, 100);
        foreach ($this->counts as $lots => $prices) {
            $rank -= $prices;
            if ($rank <= 0) {
                return $lots;
            }
        }

        return 0;
    }

    /** @param array<int, int>|DepthColumn $sample */
    private function count(array|DepthColumn $sample, int $by): void
    {
        foreach ($sample instanceof DepthColumn ? $sample->levels() : $sample as $lots) {
            $this->total += $by;
            $this->counts[$lots] = ($this->counts[$lots] ?? 0) + $by;
            if ($this->counts[$lots] === 0) {
                unset($this->counts[$lots]);
            }
        }
    }

    /** From how many lots on a price stands out. */
    public function unusual(): int
    {
        return self::UNUSUAL * $this->percentile(50);
    }
}
