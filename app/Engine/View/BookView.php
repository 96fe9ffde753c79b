<?php

declare(strict_types=1);

namespace App\Engine\View;

use Lotrik\Book\PriceLevel;
use Lotrik\Contract\Contract;
use Lotrik\Order\Side;
use Lotrik\Venue\Venue;

/** A contract's book as the API shows it: price, lots, orders; best first. */
final class BookView
{
    /** @return array<string, mixed> */
    public static function of(Venue $venue, Contract $contract, int $levels, int $sequence, int $at): array
    {
        $side = static fn(Side $side): array => array_map(
            static fn(PriceLevel $l): array => [$contract->price($l->tick), $l->lots, $l->orders],
            $venue->book->levels($side, $levels),
        );
        $last = $venue->last();

        return [
            'bids' => $side(Side::Buy), 'asks' => $side(Side::Sell),
            'last' => $last === null ? null : ['price' => $contract->price($last->tick), 'size' => $last->lots, 'time' => Time::iso($at)],
            'sequence' => $sequence,
        ];
    }
}
