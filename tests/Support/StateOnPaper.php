<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Desk\Account\AccountBook;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Desk\Position\AccountPosition;
use Lotrik\Desk\Position\Entry;
use Lotrik\ExitPlan\Open\ExitSlot;

/** A desk's state as plain values that outlive the classes: what a golden journal must end in. Prices in ticks. */
final class StateOnPaper
{
    /** @return array<string, mixed> */
    public static function of(DeskState $state): array
    {
        $holdings = [];
        foreach ($state->holdings as $code => $byAccount) {
            foreach ($byAccount as $account => $holding) {
                if ($holding->sequence > 0) {
                    $holdings["$code/$account"] = self::holding($holding);
                }
            }
        }
        ksort($holdings);

        return [
            'sequence' => $state->sequence, 'last_order' => $state->lastOrder, 'last_fill' => $state->lastFill,
            'accounts' => array_keys($state->accounts), 'contracts' => array_keys($state->contracts), 'barred' => array_filter(array_map(static fn(AccountBook $book): int => $book->barredUntil, $state->books)),
            'commands' => $state->handled->count(),
            'orders' => array_map(self::order(...), $state->orders), 'holdings' => $holdings,
        ];
    }

    /** @return array<string, mixed> */
    private static function order(DeskOrder $order): array
    {
        return [
            'account' => $order->account, 'contract' => $order->contract, 'side' => $order->side->value, 'kind' => $order->kind->value,
            'role' => $order->role->value,
            'tif' => $order->tif->value, 'state' => $order->state->value, 'reason' => $order->reason, 'quantity' => $order->quantity,
            'filled' => $order->filled,
            'average' => (string) $order->average(), 'price' => $order->price, 'trigger' => $order->trigger,
            'triggered' => $order->triggered,
            'held' => $order->isHeld(), 'expires' => $order->expiresAt, 'tied' => $order->tie?->other, 'entry' => $order->entry,
            'portion' => $order->portion, 'group' => $order->group,
        ];
    }

    /** @return array<string, mixed> */
    private static function holding(AccountPosition $holding): array
    {
        return [
            'lots' => $holding->position->lots, 'average' => (string) $holding->position->average,
            'realised' => (string) $holding->position->realised,
            'flattening' => $holding->isClosingDown(), 'working' => array_keys($holding->working),
            'entries' => array_map(self::entry(...), $holding->entries),
        ];
    }

    /** @return array<string, mixed> */
    private static function entry(Entry $entry): array
    {
        return [
            'side' => $entry->exits->side->value, 'plan' => $entry->exits->plan->name, 'covers' => $entry->exits->plan->covers->value,
            'portions' => array_map(static fn(ExitSlot $slot): array => [
                'portion' => $slot->portion->number, 'group' => $slot->group, 'lots' => $slot->lots, 'stop' => $slot->stop,
                'target' => $slot->target,
                'anchor' => $entry->exits->anchor($slot->group), 'by_hand' => [$slot->stopByHand, $slot->targetByHand],
                'taken_off' => [$slot->stopTakenOff, $slot->targetTakenOff],
            ], $entry->exits->slots()),
        ];
    }
}
