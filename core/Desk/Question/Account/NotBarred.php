<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** A barred account opens nothing; orders that only reduce are taken all the same. */
final class NotBarred implements Rule
{
    public function __construct(private readonly DeskState $state) {}

    public function refuse(Proposal $proposal): ?Refusal
    {
        $account = $proposal->account->id;

        return $this->state->isBarred($account, $proposal->at) && $proposal->opens()
            ? self::barred($this->state->bookOf($account)->barredUntil, $this->state->bookOf($account)->barredFor)
            : null;
    }

    /**
     * @param int    $until ms since 1970 UTC
     * @param string $limit that was reached
     */
    private static function barred(int $until, string $limit): Refusal
    {
        $time = gmdate('Y-m-d H:i', intdiv($until, 1000));

        return new Refusal(
            RefusalCode::Barred,
            "$limit was reached: no new entries until $time UTC; reduce-only orders are accepted",
        );
    }
}
