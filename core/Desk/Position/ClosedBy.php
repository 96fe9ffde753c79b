<?php

declare(strict_types=1);

namespace Lotrik\Desk\Position;

use Lotrik\Desk\Event\Order\Purpose;
use Lotrik\Desk\Order\DeskOrder;
use Lotrik\Order\Role;

/** What lots of an entry closed through. */
enum ClosedBy: string
{
    case Stop = 'stop';

    case Target = 'target';

    /** an order of the trader's on the closing side */
    case Hand = 'hand';

    /** a flatten, a reversal or a bar */
    case Flatten = 'flatten';

    public static function order(DeskOrder $order): self
    {
        return match (true) {
            $order->role === Role::Stop => self::Stop,
            $order->role === Role::Target => self::Target,
            $order->purpose === Purpose::Flatten => self::Flatten,
            default => self::Hand,
        };
    }
}
