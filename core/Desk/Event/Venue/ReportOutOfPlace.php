<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Venue;

use Lotrik\Desk\Event\Event;

/** The venue said something about an order that its state does not allow. It is kept in the journal and changes nothing. */
final readonly class ReportOutOfPlace implements Event
{
    public const TYPE = 'report-out-of-place';

    public function __construct(
        public int $order,
        /** as in ExecType */
        public string $report,
        /** the order's state then */
        public string $state,
    ) {}
}
