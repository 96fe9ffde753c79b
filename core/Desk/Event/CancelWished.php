<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** The trader wants an order gone that is on its way to or from the venue: it is cancelled as soon as the answer is here. */
final readonly class CancelWished implements Event
{
    public const TYPE = 'cancel-wished';

    public function __construct(
        public int $order,
        public string $because,
    ) {}
}
