<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Money\Fraction;
use Lotrik\Money\Money;

/** What the lots of one stop lose where it fills. Money in the contract's currency, fees to get out included; a gain is negative. */
final readonly class StopLoss
{
    /**
     * @param int|null    $entry     number of the entry, and of its portion; null for one that was sent by hand, or is not sent
     * @param int|null    $order     number of the stop; null where it is not sent
     * @param int         $stop      in ticks
     * @param Money       $fromHere  from where the trader could get out now to the stop
     * @param Money       $fromEntry from the average, with the fees of both ways
     * @param Fraction    $inDepth   average tick that it would fill at in the depth of now
     * @param int         $missing   lots for which nothing rests there
     * @param Money       $slippage  what that costs beyond the stop
     * @param Money       $gap       what a gap through the stop adds
     */
    public function __construct(
        public ?int $entry,
        public ?int $portion,
        public ?int $order,
        public int $lots,
        public int $stop,
        public Money $fromHere,
        public Money $fromEntry,
        public Fraction $inDepth,
        public int $missing,
        public Money $slippage,
        public Money $gap,
    ) {}
}
