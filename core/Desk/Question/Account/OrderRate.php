<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** No more entries in a minute than the trader allows. */
final class OrderRate implements Rule
{
    private const MINUTE = 60_000;

    public function __construct(private readonly DeskState $state) {}

    public function refuse(Proposal $proposal): ?Refusal
    {
        $most = $proposal->account->limits->ordersAMinute;
        $asked = count($proposal->entries());
        // What is released was counted when it was placed.
        if ($most === null || $asked === 0 || $proposal->isRelease) {
            return null;
        }
        $sent = array_values(array_filter(
            $this->state->bookOf($proposal->account->id)->entriesSent,
            static fn(int $at): bool => $at > $proposal->at - self::MINUTE,
        ));
        $asked += $proposal->sent;
        if (count($sent) + $asked <= $most) {
            return null;
        }

        // So many of the oldest have to be a minute ago first; where the command alone is too much, it never passes.
        return self::tooManyEntries(
            count($sent), $asked, $most, $asked > $most ? null : $sent[count($sent) + $asked - $most - 1] + self::MINUTE,
        );
    }

    /**
     * @param int      $asked entries that are to be sent now
     * @param int|null $again when they can be sent, ms since 1970 UTC; null where they are more than a minute ever allows
     */
    private static function tooManyEntries(int $sent, int $asked, int $limit, ?int $again): Refusal
    {
        $remedy = $again === null
            ? 'send fewer at once'
            : 'the next '.($asked === 1 ? 'one' : $asked).' at '.gmdate('H:i:s', intdiv($again + 999, 1000)).' UTC';

        return new Refusal(
            RefusalCode::TooManyEntries,
            "$sent entries were sent in the last minute, ".($asked === 1 ? '1 more is' : "$asked more are")
                ." asked, and the limit is $limit; $remedy",
        );
    }
}
