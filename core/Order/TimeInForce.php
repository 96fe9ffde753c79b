<?php

declare(strict_types=1);

namespace Lotrik\Order;

/**
 * How long an order works.
 *
 * Source: FIX 4.4 TimeInForce (59): 0 Day, 1 Good Till Cancel, 3 Immediate Or Cancel, 4 Fill Or Kill, 6 Good Till Date.
 */
enum TimeInForce: string
{
    case Day = 'day';
    case GoodTillCancelled = 'gtc';
    case GoodTillDate = 'gtd';
    case ImmediateOrCancel = 'ioc';
    case FillOrKill = 'fok';

    /** It fills as it arrives or not at all: it never rests. */
    public function isImmediate(): bool
    {
        return $this === self::ImmediateOrCancel || $this === self::FillOrKill;
    }
}
