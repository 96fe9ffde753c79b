<?php

declare(strict_types=1);

namespace Lotrik\Order;

/** How long an order works. Other durations of the trade (GTD, IOC, FOK) are not offered yet. */
enum TimeInForce: string
{
    case Day = 'day';
    case GoodTillCancelled = 'gtc';
}
