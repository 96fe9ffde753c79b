<?php

declare(strict_types=1);

namespace Lotrik\Order;

/** Order kinds that the desk takes; the values are also the words of the interface. */
enum OrderKind: string
{
    case Market = 'market';
    case Limit = 'limit';
    case Stop = 'stop';
    case StopLimit = 'stop-limit';

    public function hasTrigger(): bool
    {
        return $this === self::Stop || $this === self::StopLimit;
    }

    public function hasPrice(): bool
    {
        return $this === self::Limit || $this === self::StopLimit;
    }
}
