<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use App\Engine\EngineRefusal;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Intake\OnlyReduces;
use Lotrik\Refusal\Refusal;

/**
 * How many commands that can add to a position an account may send: 50 a second for good, and a burst on top. Cancels,
 * flattening, exits and orders that only reduce are never held back.
 */
final class CommandRate
{
    private const A_SECOND = 50;

    /** Commands that may come at once beyond the steady rate. */
    private const BURST = 150;

    private readonly Rate $rate;

    public function __construct()
    {
        $this->rate = new Rate(self::A_SECOND, self::BURST);
    }

    /**
     * @param array<array-key, mixed> $body
     * @param float                   $now  in seconds, of whatever clock
     *
     * @throws Refusal
     */
    public function count(string $op, int $account, array $body, DeskState $state, float $now): void
    {
        if (OnlyReduces::is($op, $account, $body, $state)) {
            return;
        }
        if (! $this->rate->take($account, $now)) {
            throw EngineRefusal::tooManyCommands(self::A_SECOND);
        }
    }
}
