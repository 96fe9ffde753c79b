<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

use Lotrik\Order\Role;

/** A held order goes to the venue. */
final readonly class OrderReleased implements OfOrder
{
    public const TYPE = 'order-released';

    public function __construct(
        public int $order,
        public string $because,
        /** what it is once it is sent, where that is not what it was when it was placed */ public ?Role $role = null,
        /** lots of it then */ public ?int $quantity = null,
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
