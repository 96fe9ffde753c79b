<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Venue;

use Lotrik\Desk\Event\Event;

/** The venue works an order that for the desk has ended, or that it does not know: it is cancelled there. */
final readonly class StrayOrderFound implements Event
{
    public const TYPE = 'stray-order-found';

    public function __construct(
        public int $account,
        public string $contract,
        public int $order,
        public int $lots,
    ) {}
}
