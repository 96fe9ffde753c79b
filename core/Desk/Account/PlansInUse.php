<?php

declare(strict_types=1);

namespace Lotrik\Desk\Account;

use Lotrik\Desk\DeskState;

/** Which exit plans an account's open lots or working orders are under: their names are all that says what would protect them. */
final class PlansInUse
{
    /** @return array<string, string> plan → where it is in use, in words */
    public static function of(int $account, DeskState $state): array
    {
        $used = [];
        foreach ($state->holdings as $code => $holdings) {
            foreach (($holdings[$account] ?? null)->entries ?? [] as $entry) {
                if ($entry->exits->openLots() > 0 && $entry->exits->plan->name !== null) {
                    $used[$entry->exits->plan->name] = "it covers the open position in $code";
                }
            }
            foreach (($holdings[$account] ?? null)->working ?? [] as $order) {
                if ($order->planName !== null) {
                    $used[$order->planName] ??= "order {$order->id} in $code was sent with it";
                }
            }
        }

        return $used;
    }
}
