<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** A limit keeps an account from new entries for a time. What is open goes on. */
final readonly class EntriesStopped implements Event
{
    public const TYPE = 'entries-stopped';

    public function __construct(
        public int $account,
        /** ms since 1970 UTC */
        public int $until,
        /** the limit that was met, in words */
        public string $because,
        /** the contract in which a loss led to it: it counts from here on anew; null where none did */
        public ?string $contract = null,
    ) {}
}
