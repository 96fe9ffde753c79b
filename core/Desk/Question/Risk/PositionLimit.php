<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Risk;

use Lotrik\Contract\Contract;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** Position and working entries on one side together stay within the account's position limit, and within what can be counted at all. */
final class PositionLimit implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $most = $proposal->account->limits->in($proposal->contract->code)->positionLots ?? Contract::MAX_LOTS;
        [$before, $after] = [$proposal->before->reach(), $proposal->after->reach()];
        foreach (Side::cases() as $side) {
            if ($after->on($side) > $most && $after->on($side) > $before->on($side)) {
                $open = max(0, $proposal->before->lots * $side->sign());

                return self::positionLimit($after->on($side) - $before->on($side), $open, $before->on($side) - $open, $most);
            }
        }

        return null;
    }

    /**
     * @param int $lots    that are asked for
     * @param int $open    on that side
     * @param int $working entries on that side
     */
    private static function positionLimit(int $lots, int $open, int $working, int $limit): Refusal
    {
        $left = max(0, $limit - $open - $working);

        return new Refusal(
            RefusalCode::PositionLimit,
            Refusal::lots($lots)." asked, $left left of the position limit of $limit: $open open, $working working",
            '/quantity',
        );
    }
}
