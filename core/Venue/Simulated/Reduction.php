<?php

declare(strict_types=1);

namespace Lotrik\Venue\Simulated;

use Lotrik\Venue\WorkingOrder;

/** Lots that the venue takes off an order by itself. */
final readonly class Reduction
{
    /** @param int $lots all of them or more, and the order goes; none or fewer, and it stays as it is */
    public function __construct(public WorkingOrder $order, public int $lots, public string $because) {}
}
