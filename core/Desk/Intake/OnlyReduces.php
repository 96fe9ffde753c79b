<?php

declare(strict_types=1);

namespace Lotrik\Desk\Intake;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Steps\StepAction;
use Lotrik\Order\Side;

/** Which commands cannot add to a position, told before they are read in full: these are never held back. */
final class OnlyReduces
{
    /** Everything else cancels, closes or protects. */
    private const MAY_ADD = ['place', 'place-pair', 'modify', 'reverse', 'steps'];

    /** @param array<array-key, mixed> $body of the command, as it was sent */
    public static function is(string $op, int $account, array $body, DeskState $state): bool
    {
        return ! in_array($op, self::MAY_ADD, true) || match ($op) {
            'reverse' => false,
            'steps' => ! self::hasOpeningStep($body['steps'] ?? null),
            'modify' => self::isExitOrUnknown($body['order'] ?? null, $state),
            default => self::closes($account, $body, $state),
        };
    }

    private static function hasOpeningStep(mixed $steps): bool
    {
        $actions = array_map(
            static fn(mixed $step): mixed => is_array($step) ? $step['do'] ?? null : null,
            is_array($steps) ? $steps : [],
        );

        return array_filter($actions, static fn(mixed $do): bool => is_string($do) && StepAction::tryFrom($do)?->mayOpen() === true) !== [];
    }

    /** What is unknown is refused anyway. */
    private static function isExitOrUnknown(mixed $id, DeskState $state): bool
    {
        $order = is_int($id) ? $state->orders[$id] ?? null : null;

        return $order === null || $order->role->isReduceOnly();
    }

    /** @param array<array-key, mixed> $body */
    private static function closes(int $account, array $body, DeskState $state): bool
    {
        $side = is_string($body['side'] ?? null) ? Side::tryFrom($body['side']) : null;
        $contract = $body['contract'] ?? null;

        return $side !== null && is_string($contract) && isset($state->contracts[$contract]) && ($body['closing'] ?? null) !== 'through'
            && $state->holding($account, $contract)->position->closedBy($side, 1) > 0;
    }
}
