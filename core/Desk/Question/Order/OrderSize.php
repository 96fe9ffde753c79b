<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Order;

use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** No entry is larger than the account allows in the contract; none is made larger beyond it either. */
final class OrderSize implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $most = $proposal->account->limits->in($proposal->contract->code)->orderLots;
        if ($most === null) {
            return null;
        }
        foreach ($proposal->after->entriesThatDifferFrom($proposal->before) as $id => $entry) {
            if ($entry->whole > max($most, $proposal->before->entry($id)->whole ?? 0)) {
                return self::orderLimit($entry->whole, $most);
            }
        }

        return null;
    }

    private static function orderLimit(int $lots, int $limit): Refusal
    {
        return new Refusal(
            RefusalCode::OrderLimit, "$lots lots are over the order limit of $limit; at most $limit in one order", '/quantity',
        );
    }
}
