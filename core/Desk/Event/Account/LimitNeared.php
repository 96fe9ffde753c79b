<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** So much of a limit of the day is used up; each of 50, 75 and 90 percent is told once a day. */
final readonly class LimitNeared implements Event
{
    public const TYPE = 'limit-neared';

    public function __construct(
        public int $account,
        /** which one, in words */
        public string $limit,
        public int $percent,
        /** when the account's trading day began, ms since 1970 UTC */
        public int $day,
        /** such as "250.00 of 500.00 EUR" */
        public string $figures,
    ) {}
}
