<?php

declare(strict_types=1);

namespace Lotrik\Desk\Command;

/** Whether a client id was ever used for a command that was taken, however long ago. */
interface CommandArchive
{
    public function has(int $account, string $clientId): bool;
}
