<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** A limit of the account's day was reached: no new entries until then. Since version 2 it says which. */
final readonly class AccountBarred implements Event
{
    public const TYPE = 'account-barred';

    public const VERSION = 2;

    public function __construct(
        public int $account,
        /** ms since 1970 UTC */ public int $until,
        public string $because,
        /** such as "the daily loss limit" */
        public string $limit,
    ) {}
}
