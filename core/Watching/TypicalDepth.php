<?php

declare(strict_types=1);

namespace Lotrik\Watching;

/**
 * How many lots a contract is used to at one price: counted over every price of the book, four times a second, for
 * the last two minutes. Unusual is five times the middle value (this product's own rule).
 */
final class TypicalDepth
{
    public const SAMPLES = 480;

    private const UNUSUAL = 5;

    /** @var array<int, list<int>> lots of each price, a sample each; a ring */
    private array $samples = [];

    private int $next = 0;

    /** @var array<int, int> lots → at how many prices */
    private array $counts = [];

    private int $total = 0;

    /** @param array<int, int> $levels tick → lots */
    public function add(array $levels): void
    {
        foreach ($this->samples[$this->next] ?? [] as $lots) {
            $this->total--;
            if (--$this->counts[$lots] === 0) {
                unset($this->counts[$lots]);
            }
        }
        $this->samples[$this->next] = array_values($levels);
        $this->next = ($this->next + 1) % self::SAMPLES;
        foreach ($levels as $lots) {
            $this->total++;
            $this->counts[$lots] = ($this->counts[$lots] ?? 0) + 1;
        }
    }

    /** The lots that so many of a hundred prices do not exceed (nearest rank); 0 where nothing has been seen. */
    public function percentile(int $of100): int
    {
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

    /** From how many lots on a price stands out. */
    public function unusual(): int
    {
        return self::UNUSUAL * $this->percentile(50);
    }
}
