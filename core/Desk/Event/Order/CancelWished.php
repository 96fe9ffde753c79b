<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** The trader wants an order gone that is on its way to or from the venue: it is cancelled as soon as the answer is here. */
final readonly class CancelWished implements OfOrder
{
    public const TYPE = 'cancel-wished';

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
