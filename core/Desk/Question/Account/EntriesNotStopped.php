<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;

/** After too many losses, or too large a one, nothing new is entered for a time. */
final class EntriesNotStopped implements Rule
{
    public function __construct(private readonly DeskState $state) {}

    public function refuse(Proposal $proposal): ?Refusal
    {
        [$until, $because] = $this->state->bookOf($proposal->account->id)->entriesStopped;

        return $proposal->at < $until && $proposal->opens() ? Refusal::entriesStopped($because, $until) : null;
    }
}
