<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** An account's trading day begins with lots open: from here on they count from the mark of now. */
final readonly class DayBegun implements Event
{
    public const TYPE = 'day-begun';

    public function __construct(
        public int $account,
        /** when it began, ms since 1970 UTC */
        public int $day,
        /** @var array<string, array{string, int}> contract → what its open lots had won by then, exact, in ticks × lots; and how many they are */
        public array $carried,
    ) {}
}
