<?php

declare(strict_types=1);

namespace App\Engine\Operation\Noise;

use App\Engine\Loop\EngineClock;
use App\Engine\Loop\PatientJob;
use App\Engine\View\Time;
use Lotrik\Contract\Contract;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Rehearsal\Noise\NoiseStudy;
use Lotrik\Rehearsal\Noise\NoiseTally;

/** Whether the stop of a plan, or of several that differ in it, was inside the noise of what has just traded. */
final class NoiseJob implements PatientJob
{
    /** Work in one go, in ns. */
    private const SLICE = 2_000_000;

    /** @var list<array{stop: int|null, own: bool, buy: array<string, mixed>, sell: array<string, mixed>}> */
    private array $done = [];

    /** @var \Generator<int, null, null, array{buy: NoiseTally, sell: NoiseTally}>|null of the first plan that is left */
    private ?\Generator $work = null;

    /**
     * @param list<array{int|null, bool, ExitPlan}>                             $plans distance of the stop in ticks, whether it is the
     *                                                                                 trader's own, the plan
     * @param \Closure(array{status: int, body: array<string, mixed>}): mixed $keep  told of the answer
     */
    public function __construct(
        private readonly Contract $contract,
        private readonly NoiseStudy $study,
        private readonly int $minutes,
        private array $plans,
        private readonly \Closure $keep,
    ) {}

    public function advance(EngineClock $clock): bool
    {
        for ($until = hrtime(true) + self::SLICE; $this->plans !== [] && hrtime(true) < $until;) {
            if ($this->work === null) {
                $this->work = $this->study->of($this->plans[0][2]);
                $this->work->current();
            } else {
                $this->work->next();
            }
            if (! $this->work->valid()) {
                [$stop, $own] = array_shift($this->plans);
                $this->done[] = ['stop' => $stop, 'own' => $own] + array_map(
                    fn(NoiseTally $tally): array => $tally->toArray($this->contract),
                    $this->work->getReturn(),
                );
                $this->work = null;
            }
        }

        return $this->plans !== [];
    }

    public function answer(): array
    {
        $from = $this->study->from();

        $answer = ['status' => 200, 'body' => [
            'contract' => $this->contract->code, 'minutes' => $this->minutes, 'every' => NoiseStudy::every($this->minutes),
            'from' => $from === null ? null : Time::iso($from), 'covered_minutes' => $this->study->coveredMinutes(),
            'needed' => NoiseTally::NEEDED,
            'by_stop' => $this->done,
        ]];
        ($this->keep)($answer);

        return $answer;
    }
}
