<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\Checkpoint\HistoryBacklog;
use App\Engine\Loop\EngineClock;
use App\Engine\Loop\Job;

/** A look back that came before all of the past was there again: answered once it is. */
final readonly class AfterHistory implements Job
{
    /** @param \Closure(): array{status: int, body: array<array-key, mixed>} $answer */
    public function __construct(private HistoryBacklog $backlog, private \Closure $answer) {}

    public function advance(EngineClock $clock): bool
    {
        return $this->backlog->load();
    }

    public function answer(): array
    {
        return ($this->answer)();
    }
}
