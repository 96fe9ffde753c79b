<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** A contract's session ends soon, and an account has something in it. */
final readonly class CloseNear implements Event
{
    public const TYPE = 'close-near';

    public function __construct(
        public int $account,
        public string $contract,
        /** before the close */
        public int $minutes,
        /** when it ends, ms since 1970 UTC */
        public int $closes,
        /** what is open and what works, in words */
        public string $left,
    ) {}
}
