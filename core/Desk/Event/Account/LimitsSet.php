<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** What holds an account back from now on, and what will from its next trading day, where that lets more through. */
final readonly class LimitsSet implements Event
{
    public const TYPE = 'limits-set';

    public function __construct(
        public int $account,
        /** @var array<string, mixed> in force, see Limits */
        public array $limits,
        /** when the day of these limits came into force, ms since 1970 UTC; null where it always was */
        public ?int $since = null,
        /** @var array<string, mixed>|null */
        public ?array $next = null,
        /** from when on `next` is in force, ms since 1970 UTC */
        public ?int $from = null,
    ) {}
}
