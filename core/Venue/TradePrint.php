<?php

declare(strict_types=1);

namespace Lotrik\Venue;

use Lotrik\Order\Side;

/** One trade as the whole market sees it. Numbers rise by one within a contract. */
final readonly class TradePrint
{
    public function __construct(public int $number, public int $tick, public int $lots, public Side $aggressor) {}
}
