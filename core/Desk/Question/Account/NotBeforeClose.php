<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;

/** Where a trader wants to be flat before the close, nothing new is entered from then on. */
final class NotBeforeClose implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $minutes = $proposal->account->limits->flattenBeforeClose;
        $hours = $proposal->contract->session->at($proposal->at);
        $isLate = $minutes !== null && $hours->open && $hours->until !== null && $proposal->at >= $hours->until - $minutes * 60_000;

        return $isLate && $proposal->opensNow()
            ? EntriesNotStopped::entriesStopped(
                "by your limits {$proposal->contract->code} is flat $minutes minutes before its close", (int) $hours->until,
            )
            : null;
    }
}
