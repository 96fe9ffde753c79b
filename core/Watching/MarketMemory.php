<?php

declare(strict_types=1);

namespace Lotrik\Watching;

/**
 * What is remembered of one contract's market (its last prints, its depth history) in pieces, so that it can be kept
 * on disk: each call gives what has come since the one before, and all pieces together bring everything back.
 */
final class MarketMemory
{
    private const PRINTS = 'prints';

    /** Only so many calls say what is no longer kept: an order need not wait for the taking away. */
    private const FORGETS_EVERY = 50;

    /** @var array<string, int> kind → number of the newest item that is in a piece */
    private array $packed = [];

    private int $calls = 0;

    public function __construct(private readonly RecentPrints $prints, private readonly DepthHistory $depth) {}

    /** @return list<MemoryPiece> what has come since the last call */
    public function pieces(): array
    {
        $pieces = [];
        $forgets = ++$this->calls % self::FORGETS_EVERY === 0;
        $newest = $this->prints->newest();
        if ($newest > ($this->packed[self::PRINTS] ?? 0)) {
            $pieces[] = new MemoryPiece(self::PRINTS, $newest, $this->prints->packAfter($this->packed[self::PRINTS] ?? 0), $forgets ? $newest - RecentPrints::KEPT : 0);
            $this->packed[self::PRINTS] = $newest;
        }
        foreach (DepthStep::cases() as $step) {
            $made = $this->depth->made($step);
            if ($made > ($this->packed[self::kind($step)] ?? 0)) {
                $pieces[] = new MemoryPiece(self::kind($step), $made, $this->depth->packAfter($step, $this->packed[self::kind($step)] ?? 0), $forgets ? $made - $step->kept() : 0);
                $this->packed[self::kind($step)] = $made;
            }
        }

        return $pieces;
    }

    /** @param iterable<MemoryPiece> $pieces of every kind, those of one kind in the order in which they were made */
    public function restore(iterable $pieces): void
    {
        foreach ($pieces as $piece) {
            if ($piece->kind === self::PRINTS) {
                $this->prints->unpack($piece->number, $piece->body);
            } else {
                $this->depth->unpack(DepthStep::from((int) $piece->kind), $piece->number, $piece->body);
            }
            $this->packed[$piece->kind] = $piece->number;
        }
        $this->depth->resume();
    }

    private static function kind(DepthStep $step): string
    {
        return (string) $step->value;
    }
}
