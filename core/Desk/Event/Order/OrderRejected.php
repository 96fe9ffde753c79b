<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** The venue did not take the order. */
final readonly class OrderRejected implements OfOrder
{
    public const TYPE = 'order-rejected';

    public const VERSION = 2;

    public function __construct(
        public int $order,
        public string $because,
        /** the venue's id of the execution report; null where the desk did it to an order that it held */
        public ?string $execution = null,
    ) {}

    public function order(): int
    {
        return $this->order;
    }

    public function execution(): ?string
    {
        return $this->execution;
    }
}
