<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question\Account;

use Lotrik\Desk\DeskState;
use Lotrik\Desk\Question\Proposal;
use Lotrik\Desk\Question\Rule;
use Lotrik\Refusal\Refusal;
use Lotrik\Refusal\RefusalCode;

/** After too many losses, or too large a one, nothing new is entered for a time. */
final class EntriesNotStopped implements Rule
{
    public function __construct(private readonly DeskState $state) {}

    public function refuse(Proposal $proposal): ?Refusal
    {
        [$until, $because] = $this->state->bookOf($proposal->account->id)->entriesStopped;

        return $proposal->at < $until && $proposal->opens() ? self::entriesStopped($because, $until) : null;
    }

    /** @param int $until ms since 1970 UTC */
    public static function entriesStopped(string $because, int $until): Refusal
    {
        $time = gmdate('Y-m-d H:i:s', intdiv($until, 1000));

        return new Refusal(RefusalCode::EntriesStopped, "$because: no new entries until $time UTC; reduce-only orders are accepted");
    }
}
