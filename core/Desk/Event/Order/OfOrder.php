<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Order;

use Lotrik\Desk\Event\Event;

/** Something that changes one order and nothing else. */
interface OfOrder extends Event
{
    public function order(): int;

    /** The venue's number of the report that it comes from; null where no report said it. */
    public function execution(): ?string;
}
