<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

/** A change of an order is on its way to the venue; null leaves as it is. Lots are a change, so that a fill that crosses it adds up. */
final readonly class ReplaceRequested implements OfOrder
{
    public const TYPE = 'replace-requested';

    public function __construct(
        public int $order,
        public int $lotsChange,
        public ?int $price,
        public ?int $trigger,
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
