<?php

declare(strict_types=1);

namespace Lotrik\ExitPlan\InTicks;

use Lotrik\Contract\Contract;
use Lotrik\Money\Money;

/** What a plan's distances are turned into ticks with. */
final readonly class Basis
{
    public TrueRanges $ranges;

    /**
     * @param int        $price    the entry's price in ticks
     * @param int        $quantity lots of the whole order
     * @param TrueRanges|null $ranges  the average true ranges that it was sent with
     * @param Money|null $balance  of the account, in the contract's currency; null where there is no account
     */
    public function __construct(
        public Contract $contract,
        public int $price,
        public int $quantity,
        public ?Money $balance = null,
        ?TrueRanges $ranges = null,
    ) {
        $this->ranges = $ranges ?? TrueRanges::none();
    }
}
