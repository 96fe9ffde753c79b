<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Risk;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** So many entries work in a contract at the same time, and no more. */
final class WorkingOrders implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $most = $proposal->account->limits->in($proposal->contract->code)->workingOrders;
        [$before, $after] = [$proposal->before->countEntries(), $proposal->after->countEntries()];

        return $most !== null && $after > $most && $after > $before
            ? self::workingOrders($after - $before, $before, $most, $proposal->contract->code)
            : null;
    }

    /** @param int $asked orders; `$working` entries work in the contract already */
    private static function workingOrders(int $asked, int $working, int $limit, string $contract): Refusal
    {
        return new Refusal(
            RefusalCode::WorkingOrders,
            "$asked more would make ".($asked + $working)." entries working in $contract, over the limit of $limit; "
                .max(0, $limit - $working).' more can be sent now',
        );
    }
}
