<?php

declare(strict_types=1);

namespace App\Engine\Checkpoint;

use App\Engine\Journal\Dropped;
use App\Engine\Journal\Journal;
use Lotrik\Desk\TradingSystem;

/**
 * What of prints and depth history was not brought back at the start, so that the engine is there sooner: hours of it
 * that nobody has asked for yet. It comes back between turns, or at once when somebody asks.
 */
final class HistoryBacklog
{
    /** Rows that are read at once: a few ms. */
    private const CHUNK = 20;

    private bool $complete = false;

    public function __construct(private readonly Journal $journal, private readonly TradingSystem $system) {}

    public function isComplete(): bool
    {
        return $this->complete;
    }

    /** @return bool false when all of it is back */
    public function load(): bool
    {
        if (! $this->complete) {
            $pieces = $this->journal->olderMemory(self::CHUNK);
            foreach ($pieces ?? [] as [$contract, $piece]) {
                Dropped::unless(
                    "a piece of what $contract had seen", fn() => $this->system->desk->quote($contract)->memory->restore($piece),
                );
            }
            $this->complete = $pieces === null;
        }

        return ! $this->complete;
    }
}
