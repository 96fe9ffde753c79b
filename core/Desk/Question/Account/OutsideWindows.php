<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;

/** In the windows that a trader keeps free nothing new is entered. */
final class OutsideWindows implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $window = $proposal->account->limits->windowAt($proposal->at);

        return $window !== null && $proposal->opensNow()
            ? EntriesNotStopped::entriesStopped("{$window->words()} is a no-entry window", (int) $window->until($proposal->at))
            : null;
    }
}
