<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;

/** A barred account opens nothing; orders that only reduce are taken all the same. */
final class NotBarred implements Rule
{
    public function __construct(private readonly DeskState $state) {}

    public function refuse(Proposal $proposal): ?Refusal
    {
        $account = $proposal->account->id;

        return $this->state->isBarred($account, $proposal->at) && $proposal->opens()
            ? Refusal::barred($this->state->bookOf($account)->barredUntil, $this->state->bookOf($account)->barredFor)
            : null;
    }
}
