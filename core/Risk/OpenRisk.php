<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Contract\Contract;
use Lotrik\Money\Money;
use Lotrik\Position\Position;

/** What a position can still lose, measured from its average, and from here. */
final readonly class OpenRisk
{
    public function __construct(
        public Money $risk,
        public Money $lockedIn,
        public int $unprotected,
        /** What is given up if every stop is hit from here: open P/L minus P/L at the stops, plus the fees to get out. */
        public Money $fromHere,
    ) {}

    /**
     * @param list<ProtectedLots> $protected
     * @param int|null            $mark      tick at which the trader could get out now; null before any price
     */
    public static function of(Position $position, Contract $contract, array $protected, ?int $mark): self
    {
        return AtStops::of($position, $contract, $protected)->from($mark);
    }
}
