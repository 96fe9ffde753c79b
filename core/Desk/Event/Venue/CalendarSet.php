<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Venue;

use Lotrik\Desk\Event\Event;

/** The days on which the venue is shut or closes early, from here on. */
final readonly class CalendarSet implements Event
{
    public const TYPE = 'calendar-set';

    public function __construct(
        /** @var array<string, mixed> see Calendar */ public array $calendar,
    ) {}
}
