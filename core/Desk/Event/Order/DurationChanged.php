<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

use Lotrik\Order\TimeInForce;

/** How long the order works was changed; the venue need not know. */
final readonly class DurationChanged implements OfOrder
{
    public const TYPE = 'duration-changed';

    public function __construct(
        public int $order,
        public TimeInForce $tif,
        /** ms since 1970 UTC */ public ?int $expiresAt,
        /** as in OrderPlaced */
        public ?int $dayEnds = null,
        /** it stays beyond the time at which it was to be cancelled */
        public bool $stays = false,
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
