<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Auth\Access\Response;
use Illuminate\Support\Facades\Gate;

/** Lifts what keeps an account from new entries: anybody's, by the owner of the desk. */
final class LiftRequest extends AccountRequest
{
    public function authorize(): Response
    {
        $mayLift = Gate::inspect('lift-limits');
        $isOwn = Gate::inspect('use', $this->account());

        // To anybody else another's account looks as if it were not there.
        return $mayLift->allowed() || $isOwn->allowed() ? $mayLift : $isOwn;
    }
}
