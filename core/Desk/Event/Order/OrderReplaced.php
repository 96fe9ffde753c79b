<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** The venue changed the order. */
final readonly class OrderReplaced implements OfOrder
{
    public const TYPE = 'order-replaced';

    public const VERSION = 2;

    public function __construct(
        public int $order,
        public int $leaves,
        public ?int $price,
        public ?int $trigger,
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
