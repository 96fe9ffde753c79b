<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** A held order goes to the venue. */
final readonly class OrderReleased implements Event
{
    public const TYPE = 'order-released';

    public function __construct(
        public int $order,
        public string $because,
    ) {}
}
