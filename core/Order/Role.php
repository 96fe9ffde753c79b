<?php

declare(strict_types=1);

namespace Lotrik\Order;

/** What an order is for. */
enum Role: string
{
    /** opens or adds to a position; on the closing side it first reduces */
    case Entry = 'entry';

    /** the protective stop of a portion */
    case Stop = 'stop';

    /** the target of a portion */
    case Target = 'target';

    /** closes by hand, never more than the position */
    case Close = 'close';

    public function isExit(): bool
    {
        return $this === self::Stop || $this === self::Target;
    }

    public function isReduceOnly(): bool
    {
        return $this !== self::Entry;
    }
}
