<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** A cancel is on its way to the venue. */
final readonly class CancelRequested implements OfOrder
{
    public const TYPE = 'cancel-requested';

    public function __construct(
        public int $order,
        public string $because,
        public bool $byHand = false,
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
