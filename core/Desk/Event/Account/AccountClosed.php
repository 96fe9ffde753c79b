<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event\Account;

use Lotrik\Desk\Event\Event;

/** An account that trades no more: its fills and its journal stay to be read. */
final readonly class AccountClosed implements Event
{
    public const TYPE = 'account-closed';

    public function __construct(
        public int $account,
        /** the account that goes on in its place after a reset */ public ?int $next = null,
    ) {}
}
