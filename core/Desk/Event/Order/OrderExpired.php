<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** Its time is up: a cancel is on its way to the venue, and what comes back of it counts as expired. */
final readonly class OrderExpired implements OfOrder
{
    public const TYPE = 'order-expired';

    public function __construct(
        public int $order,
        public string $because,
    ) {}

    public function order(): int
    {
        return $this->order;
    }

    public function execution(): ?string
    {
        return null;
    }
}
