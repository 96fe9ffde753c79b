<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** The venue changed the order. */
final readonly class OrderReplaced implements Event
{
    public const TYPE = 'order-replaced';

    public function __construct(
        public int $order,
        public int $leaves,
        public ?int $price,
        public ?int $trigger,
    ) {}
}
