<?php

declare(strict_types=1);

namespace Lotrik\Risk;

use Lotrik\Money\MixedSum;
use Lotrik\Money\Money;
use Lotrik\Money\RateTable;

/**
 * What an account has at risk and what its day has brought, in its base currency, with each contract in its own.
 *
 * The loss room is what is left of the daily loss limit: a day's loss (realised − fees + open) eats it, a gain does
 * not add to it.
 */
final readonly class AccountRisk
{
    /** @param array<string, ContractRisk> $byContract contracts with an open position */
    private function __construct(
        public Money $risk,
        public Money $lockedIn,
        public Money $fromHere,
        public int $unprotected,
        public Money $realised,
        public Money $open,
        public Money $fees,
        public Money $net,
        public LossRoom $lossRoom,
        public array $byContract,
    ) {}

    /**
     * @param callable(Money): LossRoom     $room      of a day that stands at so much
     * @param array<string, MarkedPosition> $positions by contract, marked as the limits are judged
     * @param Money                         $carried   what open lots had won when the day began: no gain of this day
     */
    public static function of(RateTable $rates, callable $room, array $positions, DayResult $day, Money $carried): self
    {
        [$risk, $locked, $fromHere, $open] = [new MixedSum(), new MixedSum(), new MixedSum(), new MixedSum()];
        $unprotected = 0;
        $byContract = [];
        foreach ($positions as $code => $marked) {
            $position = $marked->position;
            if ($position->lots === 0) {
                continue;
            }
            $of = ($marked->atStops ?? AtStops::of($position, $marked->contract, []))->from($marked->mark);
            $here = $marked->contract->money($marked->mark === null ? 0 : $position->openTicks($marked->mark));
            $byContract[$code] = new ContractRisk($position->lots, $of, $here);
            $risk->add($of->risk);
            $locked->add($of->lockedIn);
            $fromHere->add($of->fromHere);
            $open->add($here);
            $unprotected += $of->unprotected;
        }
        $openToday = $open->in($rates)->minus($carried);
        $net = $day->realised->minus($day->fees)->plus($openToday);

        return new self(
            $risk->in($rates), $locked->in($rates), $fromHere->in($rates), $unprotected,
            $day->realised, $openToday, $day->fees, $net, $room($net), $byContract,
        );
    }
}
