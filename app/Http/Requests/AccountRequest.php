<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\AccountRow;

/** A command or a question for the account in the address. */
class AccountRequest extends CommandRequest
{
    protected function findAccount(): AccountRow
    {
        $account = $this->route('account');
        assert($account instanceof AccountRow);

        return $account;
    }
}
