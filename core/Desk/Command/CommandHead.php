<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

use Lotrik\Desk\Account\Account;

/** What every command has: which it is, whose, under which client id, and a fingerprint of what was sent. */
final readonly class CommandHead
{
    public function __construct(public string $op, public Account $account, public string $clientId, public string $fingerprint) {}
}
