<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** The stop's trigger has printed. */
final readonly class OrderTriggered implements OfOrder
{
    public const TYPE = 'order-triggered';

    public const VERSION = 2;

    public function __construct(
        public int $order,
        /** the venue's id of the execution report */
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
