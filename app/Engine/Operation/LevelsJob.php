<?php

declare(strict_types=1);

namespace App\Engine\Operation;

use App\Engine\Loop\EngineClock;
use App\Engine\Loop\PatientJob;
use Lotrik\Watching\Levels\Levels;
use Lotrik\Watching\Levels\MarkedLevel;

/** Marked levels that nobody has asked for lately: what has traded at each is looked for in all that is remembered, some at a time. */
final class LevelsJob implements PatientJob
{
    /** Work in one go, in ns. */
    private const SLICE = 2_000_000;

    /**
     * @param list<MarkedLevel>                                         $unknown
     * @param \Closure(): array{status: int, body: array<array-key, mixed>} $answer
     */
    public function __construct(private readonly Levels $levels, private array $unknown, private readonly \Closure $answer) {}

    public function advance(EngineClock $clock): bool
    {
        for ($until = hrtime(true) + self::SLICE; $this->unknown !== [] && hrtime(true) < $until;) {
            $this->levels->of(array_shift($this->unknown));
        }

        return $this->unknown !== [];
    }

    public function answer(): array
    {
        return ($this->answer)();
    }
}
