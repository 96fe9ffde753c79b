<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\Open;

use Lotrik\ExitPlan\InTicks\ResolvedPortion;

/** The lots of one portion in one anchor group, and where their stop and target should stand. Prices in ticks. */
final class ExitSlot
{
    public int $lots = 0;

    /** null where the plan has no stop for them */
    public ?int $stop = null;

    public ?int $target = null;

    /** The trader loosened the stop: the ratchets leave it alone until it is handed back. */
    public bool $stopByHand = false;

    public bool $targetByHand = false;

    /** The trader took the stop off, knowing that its lots are unprotected. */
    public bool $stopTakenOff = false;

    public bool $targetTakenOff = false;

    /** The trader moved it while its order was on its way: the order goes there as soon as the answer is here. */
    public bool $stopWished = false;

    public bool $targetWished = false;

    /** @param int $group counted from 0 within the entry */
    public function __construct(public readonly ResolvedPortion $portion, public readonly int $group) {}

    public function wantsStop(): bool
    {
        return $this->lots > 0 && $this->stop !== null && ! $this->stopTakenOff;
    }

    public function wantsTarget(): bool
    {
        return $this->lots > 0 && $this->target !== null && ! $this->targetTakenOff;
    }
}
