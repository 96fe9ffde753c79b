<?php

declare(strict_types=1);

namespace Lotrik\Desk\Order;

use Lotrik\Contract\Contract;
use Lotrik\Order\Role;
use Lotrik\Order\TimeInForce;

/** Why an order is still there when nobody has cancelled it. */
final class LeftOver
{
    /** @param int $at ms since 1970 UTC */
    public static function why(DeskOrder $order, Contract $contract, int $at): string
    {
        $zone = new \DateTimeZone($contract->session->zone);
        $moment = static fn(int $then): string
            => (new \DateTimeImmutable('@'.intdiv($then, 1000)))->setTimezone($zone)->format('D j M H:i')." {$zone->getName()}";
        if ($order->role->isExit()) {
            return 'lives as long as the lots that it '.($order->role === Role::Stop ? 'protects' : 'closes');
        }
        if ($order->isHeld()) {
            return 'is held and has not gone to the venue';
        }
        if ($order->cancelAt !== null) {
            return "is cancelled {$moment($order->cancelAt)}";
        }
        $ends = $order->tif === TimeInForce::Day ? $contract->session->closeAfter($at) : $order->expiresAt;

        return match (true) {
            $ends !== null => ($order->tif === TimeInForce::Day ? 'ends with the day' : 'good till date: ends')." {$moment($ends)}",
            $order->tif === TimeInForce::Day => 'a day order in a market round the clock: it works until it is cancelled',
            default => 'good till cancelled: it works until somebody cancels it',
        };
    }
}
