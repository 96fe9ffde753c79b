<?php

declare(strict_types=1);

namespace Lotrik\Desk\Question;

use Lotrik\Contract\Contract;
use Lotrik\Money\Money;

/** What the lots of one trade lose at their stops. Those that share an entry are one trade, or one set under a plan that covers the position. */
final readonly class TradeLoss
{
    /**
     * @param int $ticks ticks × lots
     * @param int $lots  that have a stop
     * @param int $bare  that have none, and so no limit
     */
    public function __construct(public int $ticks = 0, public int $lots = 0, public int $bare = 0) {}

    public function plus(int $ticks, int $lots, int $bare): self
    {
        return new self($this->ticks + $ticks, $this->lots + $lots, $this->bare + $bare);
    }

    /** What those with a stop lose there, with the fees of both sides, in the contract's currency. */
    public function atStops(Contract $contract): Money
    {
        return $contract->money($this->ticks)->plus($contract->fees(2 * $this->lots));
    }
}
