<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Order;

use Lotrik\Desk\Question\Level;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** What rests or is set off beyond the day's price limits could do nothing before the next settlement. What comes nearer passes. */
final class WithinPriceLimits implements Rule
{
    public function refuse(Proposal $proposal): ?Refusal
    {
        $limits = $proposal->quote->limits($proposal->contract);
        if ($limits === null) {
            return null;
        }
        foreach ($proposal->levels as $level) {
            if (! $limits->allow($level->tick) && ! self::comesNearer($level, $limits->nearest($level->tick))) {
                return self::beyondPriceLimit(
                    $proposal->contract->price($level->tick), $proposal->contract->code, $proposal->contract->price($limits->low),
                    $proposal->contract->price($limits->high), $level->pointer,
                );
            }
        }

        return null;
    }

    private static function comesNearer(Level $level, int $limit): bool
    {
        return $level->was !== null && ($level->was <=> $limit) === ($level->tick <=> $limit)
            && abs($level->tick - $limit) <= abs($level->was - $limit);
    }

    private static function beyondPriceLimit(string $price, string $contract, string $low, string $high, string $pointer): Refusal
    {
        return new Refusal(
            RefusalCode::BeyondPriceLimit,
            "$price is beyond the price limits of the day: $contract trades from $low to $high until the next settlement",
            $pointer,
        );
    }
}
