<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\Open;

/** What the open lots of an entry would lose at their stops. */
final readonly class StopRisk
{
    /**
     * @param int $loss        ticks × lots
     * @param int $unprotected lots without a stop, which are not in it
     */
    public function __construct(public int $loss, public int $unprotected) {}
}
