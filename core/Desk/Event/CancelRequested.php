<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** A cancel is on its way to the venue. */
final readonly class CancelRequested implements Event
{
    public const TYPE = 'cancel-requested';

    public function __construct(
        public int $order,
        public string $because,
        public bool $byHand = false,
    ) {}
}
