<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\AccountRow;

/** A ticket for the stream of an account: of the one that the body names, or of the user's first. */
final class TicketRequest extends CommandRequest
{
    protected function findAccount(): AccountRow
    {
        $this->mustKnow('account');

        return $this->fields() === [] ? ApiRequest::findAccount() : parent::findAccount();
    }
}
