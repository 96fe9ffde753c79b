<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** What kept the account from new entries today counts no more: a bar, a pause, a streak of losses. */
final readonly class BarLifted implements Event
{
    public const TYPE = 'bar-lifted';

    public function __construct(
        public int $account,
        /** who did it, by name */
        public string $by,
        /** what was lifted, in words */
        public string $what,
    ) {}
}
