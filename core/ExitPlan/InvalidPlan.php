<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

/** A plan that is well written but cannot work for this order: a stop under one tick, ratchets that fall together. */
final class InvalidPlan extends \DomainException
{
    /** @param bool $waits nothing is wrong with the plan: it works once the market has gone on for longer */
    private function __construct(string $words, public readonly bool $waits = false)
    {
        parent::__construct($words);
    }

    public static function stopUnderOneTick(string $written): self
    {
        return new self("the stop of $written is under one tick here; at least one tick is needed");
    }

    public static function targetUnderOneTick(string $written): self
    {
        return new self("the target of $written is no tick away here; at least half a tick is needed");
    }

    public static function lockReachesAt(int $at, int $lock): self
    {
        return new self("the ratchet at +$at would lock +$lock, which is not below it; lock less, or act at +".($lock + 1).' or later');
    }

    public static function ratchetsFallTogether(int $at): self
    {
        return new self("two ratchets both act at +$at once their distances are ticks; their distances must differ by a tick or more");
    }

    public static function tooFewBars(string $size, int $length, int $closed): self
    {
        $have = $closed === 1 ? '1 has' : "$closed have";

        return new self(
            "the average true range of $length bars of $size needs ".($length + 1)." closed bars, and $have closed so far; "
            .'wait, or use shorter bars or another unit',
            true,
        );
    }

    public static function noRange(): self
    {
        return new self('a distance in average true ranges needs the bars of a contract; use ticks, points, money or percent here');
    }

    public static function noBalance(): self
    {
        return new self('a distance in percent of the account needs an account; use ticks, points, money, order_money or percent');
    }
}
