<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** The venue took lots off an order, which keeps its place. */
final readonly class OrderReduced implements Event
{
    public const TYPE = 'order-reduced';

    public function __construct(
        public int $order,
        public int $by,
        public string $because,
    ) {}
}
