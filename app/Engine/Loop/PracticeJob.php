<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use Lotrik\Desk\TradingSystem;
use Lotrik\Venue\Simulated\Push;

/** Steps or a push that somebody asked for: made bit by bit, so that orders go between. */
final class PracticeJob implements Job
{
    private ?Push $push = null;

    public function __construct(
        private readonly TradingSystem $system,
        private readonly string $contract,
        private int $steps,
        private readonly int $pushTicks,
    ) {}

    /** One step of the market, or one level of the push. */
    public function advance(EngineClock $clock): bool
    {
        if ($this->steps > 0) {
            $this->steps--;
            $this->system->step($clock->at($this->system->steps() + 1));

            return $this->steps > 0 || $this->pushTicks !== 0;
        }
        if ($this->pushTicks === 0) {
            return false;
        }
        $at = $clock->at($this->system->steps() + 1);
        $this->push ??= $this->system->beginPush($this->contract, $this->pushTicks, $at);

        return $this->system->advance($this->push, $this->contract, $at);
    }

    public function answer(): array
    {
        $last = $this->system->market($this->contract)->venue->last();
        $state = $this->system->desk->state;

        return ['status' => 200, 'body' => [
            'last' => $last === null ? null : $state->contracts[$this->contract]->price($last->tick), 'sequence' => $state->sequence,
        ]];
    }
}
