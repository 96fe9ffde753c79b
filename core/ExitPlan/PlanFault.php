<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan;

/** A plan that is well written but cannot work for this order: a stop under one tick, ratchets that fall together. */
final class PlanFault extends \DomainException
{
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
        return new self("the ratchet at +$at would lock +$lock, which is not below it; lock less, or act later than +$lock");
    }

    public static function ratchetsFallTogether(int $at): self
    {
        return new self("two ratchets both act at +$at once their distances are ticks; their distances must differ by a tick or more");
    }

    public static function noBalance(): self
    {
        return new self('a distance in percent of the account needs an account; use ticks, points, money, order_money or percent');
    }
}
