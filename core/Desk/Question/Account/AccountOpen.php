<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** An account that was closed is only read. */
final class AccountOpen implements Rule
{
    public function __construct(private readonly DeskState $state) {}

    public function refuse(Proposal $proposal): ?Refusal
    {
        return $this->state->isClosed($proposal->account->id) ? self::accountClosed($proposal->account->name) : null;
    }

    public static function accountClosed(string $name): Refusal
    {
        return new Refusal(
            RefusalCode::AccountClosed, "$name is closed: it can be read, and nothing is entered on it; choose another account",
        );
    }
}
