<?php

declare(strict_types=1);

namespace Lotrik\Rehearsal\Noise;

use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\Rehearsal\FirstExit;
use Lotrik\Rehearsal\Outcome;

/** What came of all the entries on one side. */
final class NoiseTally
{
    /** Fewer say nothing. */
    public const NEEDED = 30;

    private int $cases = 0;

    /** @var array<string, int> {@see FirstExit} → cases */
    private array $first = ['stop' => 0, 'break-even' => 0, 'target' => 0];

    /** Cases of which lots are open still: these count at the last print, or only the quick losers would be told of. */
    private int $running = 0;

    private int $lots = 0;

    private int $ticks = 0;

    public function add(Outcome $outcome): void
    {
        $this->cases++;
        if ($outcome->first !== null) {
            $this->first[$outcome->first->value]++;
        }
        $this->running += $outcome->open > 0 ? 1 : 0;
        $this->lots += $outcome->closed + $outcome->open;
        $this->ticks += $outcome->ticks + $outcome->openTicks;
    }

    /**
     * @return array{cases: int, stop: int, break_even: int, target: int, open: int, stop_percent: int|null,
     *     break_even_percent: int|null, target_percent: int|null, running: int, average_ticks: string|null, enough: bool}
     *     `open`: no exit had filled when the prints ended. Percents are of all cases, halves rounded up. `average_ticks`: a
     *     lot, after fees, over all cases, to a tenth; the `running` ones, of which lots are open, at the last print.
     */
    public function toArray(Contract $contract): array
    {
        $decided = array_sum($this->first);

        return [
            'cases' => $this->cases, 'stop' => $this->first[FirstExit::Stop->value],
            'break_even' => $this->first[FirstExit::BreakEven->value],
            'target' => $this->first[FirstExit::Target->value], 'open' => $this->cases - $decided,
            'stop_percent' => $this->percent(FirstExit::Stop), 'break_even_percent' => $this->percent(FirstExit::BreakEven),
            'target_percent' => $this->percent(FirstExit::Target),
            'running' => $this->running, 'average_ticks' => $this->average($contract), 'enough' => $decided >= self::NEEDED,
        ];
    }

    private function percent(FirstExit $first): ?int
    {
        return $this->cases === 0 ? null : intdiv(200 * $this->first[$first->value] + $this->cases, 2 * $this->cases);
    }

    private function average(Contract $contract): ?string
    {
        if ($this->lots === 0) {
            return null;
        }
        $net = $contract->money($this->ticks)->minus($contract->fees(2 * $this->lots));
        $a = $net->dividedBy($contract->money(1))->dividedBy($this->lots)->toScale(1, RoundingMode::HALF_UP);

        return $a->isZero() ? '0.0' : (string) $a;
    }
}
