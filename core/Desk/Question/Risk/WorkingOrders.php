<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Risk;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;

/** So many entries work in a contract at the same time, and no more. */
final class WorkingOrders implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $most = $proposal->account->limits->in($proposal->contract->code)->workingOrders;
        [$before, $after] = [$proposal->before->countEntries(), $proposal->after->countEntries()];

        return $most !== null && $after > $most && $after > $before
            ? Refusal::workingOrders($after - $before, $before, $most, $proposal->contract->code)
            : null;
    }
}
