<?php

declare(strict_types=1);

namespace Lotrik\Book;

use Lotrik\Order\Side;

/**
 * Takes what happens in a book, while it happens: called in the middle of a sweep, before its next fill, so that
 * rules which must hold between two fills of one sweep can be kept by changing the book from inside a call.
 */
interface BookSink
{
    /** Asked before a fill in which an account meets itself: true lets the sweep look again, false ends it. */
    public function preventSelfTrade(RestingOrder $resting, int $taker): bool;

    /**
     * One fill. The resting order still carries its id but its lots are already what is left of it.
     *
     * @param int $taker        id of the incoming order
     * @param int $takerAccount its account, 0 for the simulated market
     *
     * @return int how many lots of the incoming order may still fill: `$takerLeft`, or fewer
     */
    public function trade(RestingOrder $resting, int $taker, int $takerAccount, Side $takerSide, int $tick, int $lots, int $takerLeft): int;

    /** What rests at a price now; 0 lots when the level is gone. */
    public function level(Side $side, int $tick, int $lots, int $orders): void;
}
