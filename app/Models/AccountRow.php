<?php

declare(strict_types=1);

namespace App\Models;

use Lotrik\Desk\Account;

/** A row of the engine's table accounts. */
final class AccountRow extends JournalModel
{
    protected $table = 'accounts';

    protected $primaryKey = 'id';

    /** @var array<string, string> */
    protected $casts = ['body' => 'array'];

    public function account(): Account
    {
        return Account::fromArray(['owner' => (int) $this->getAttribute('owner')] + $this->getAttribute('body'));
    }
}
