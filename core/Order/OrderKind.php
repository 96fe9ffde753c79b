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
    case IfTouched = 'mit';

    public function hasTrigger(): bool
    {
        return $this === self::Stop || $this === self::StopLimit || $this === self::IfTouched;
    }

    /** Whether it gives up: a market-if-touched waits for a better price instead. */
    public function isStop(): bool
    {
        return $this === self::Stop || $this === self::StopLimit;
    }

    public function hasPrice(): bool
    {
        return $this === self::Limit || $this === self::StopLimit;
    }

    /** The side whose stop would trigger on the same prints: market-if-touched is the mirror of a stop. */
    public function triggerSide(Side $side): Side
    {
        return $this === self::IfTouched ? $side->opposite() : $side;
    }

    public function word(): string
    {
        return $this === self::IfTouched ? 'MIT' : $this->value;
    }
}
