<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Book\PriceLevel;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Quote;
use Lotrik\Order\Side;
use Lotrik\Venue\Simulated\SimulatedVenue;

/** A contract's book as the API shows it: price, lots, orders; best first. */
final class BookView
{
    /** @return array<string, mixed> */
    public static function of(SimulatedVenue $venue, Quote $quote, Contract $contract, int $levels, int $sequence): array
    {
        $side = static fn(Side $side): array => array_map(
            static fn(PriceLevel $l): array => [$contract->price($l->tick), $l->lots, $l->orders],
            $venue->book->levels($side, $levels),
        );
        $last = $quote->prints->last();

        return [
            'bids' => $side(Side::Buy), 'asks' => $side(Side::Sell),
            'last' => $last === null ? null : ['price' => $contract->price($last[1]), 'size' => $last[2], 'time' => Time::iso($last[0])],
            'sequence' => $sequence,
        ];
    }
}
