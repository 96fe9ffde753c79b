<?php

declare(strict_types=1);

namespace App\Engine\Loop;

use App\Http\WebRefusal;
use Lotrik\Desk\Desk;
use Lotrik\Order\Side;
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

    /** @var array<int, array{float, float}> account → commands left, and when that was counted, in seconds */
    private array $left = [];

    /** @param array<array-key, mixed> $body @throws Refusal */
    public function count(string $op, int $account, array $body, Desk $desk, float $now): void
    {
        if (! in_array($op, ['place', 'place-pair', 'modify', 'reverse'], true) || ($op !== 'reverse' && self::onlyReduces($op, $account, $body, $desk))) {
            return;
        }
        [$left, $at] = $this->left[$account] ?? [(float) self::BURST, $now];
        $left = min(self::BURST, $left + ($now - $at) * self::A_SECOND);
        if ($left < 1) {
            $this->left[$account] = [$left, $now];

            throw WebRefusal::tooManyCommands(self::A_SECOND);
        }
        $this->left[$account] = [$left - 1, $now];
    }

    /** @param array<array-key, mixed> $body */
    private static function onlyReduces(string $op, int $account, array $body, Desk $desk): bool
    {
        if ($op === 'modify') {
            $order = $desk->state->orders[$body['order'] ?? 0] ?? null;

            return $order === null || $order->role->isReduceOnly();
        }
        $side = is_string($body['side'] ?? null) ? Side::tryFrom($body['side']) : null;
        $contract = $body['contract'] ?? null;

        return $side !== null && is_string($contract) && isset($desk->state->contracts[$contract]) && ($body['closing'] ?? null) !== 'through'
            && $desk->state->holding($account, $contract)->position->closedBy($side, 1) > 0;
    }
}
