<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Fill;

use Lotrik\Desk\Event\Order\OfOrder;

/** The venue took lots off an order, which keeps its place. */
final readonly class OrderReduced implements OfOrder
{
    public const TYPE = 'order-reduced';

    public const VERSION = 2;

    public function __construct(
        public int $order,
        public int $by,
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
