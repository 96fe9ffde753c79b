<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Venue;

use Lotrik\Desk\Event\Event;

/**
 * The venue counts filled lots that the desk never heard of. At what price they filled is not known, so nothing is made
 * up: the trader is told, and the position shown is what has been reported.
 */
final readonly class VenueDiffers implements Event
{
    public const TYPE = 'venue-differs';

    public function __construct(
        public int $account,
        public string $contract,
        /** null where the position differs */
        public ?int $order,
        /** lots at the venue: filled of the order, or net of the position */
        public int $venue,
        /** lots at the desk, of the same */
        public int $desk,
    ) {}
}
