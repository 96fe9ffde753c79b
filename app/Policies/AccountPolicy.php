<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\AccountRow;
use App\Models\User;
use Illuminate\Auth\Access\Response;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** Whose account it is. Somebody else's looks as if it were not there. */
final class AccountPolicy
{
    public function use(User $user, AccountRow $account): Response
    {
        return $account->owner_id === $user->id
            ? Response::allow()
            : Response::denyWithStatus(
                RefusalCode::UnknownAccount->status(),
                Refusal::unknownAccount($account->id)->getMessage(),
                RefusalCode::UnknownAccount->value,
            );
    }
}
