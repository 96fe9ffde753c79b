<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** The account's daily loss limit was reached: no new entries until then. */
final readonly class AccountBarred implements Event
{
    public const TYPE = 'account-barred';

    public function __construct(
        public int $account,
        /** ms since 1970 UTC */ public int $until,
        public string $because,
    ) {}
}
