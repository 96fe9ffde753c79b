<?php

declare(strict_types=1);

namespace Lotrik\Book;

use Lotrik\Order\Side;

/** An order that rests in the book, linked to its neighbours in the queue of its level. */
final class RestingOrder
{
    public ?RestingOrder $ahead = null;

    public ?RestingOrder $behind = null;

    public ?PriceLevel $level = null;

    /** @param int $account 0 is the simulated market itself */
    public function __construct(
        public readonly int $id,
        public readonly int $account,
        public readonly Side $side,
        public readonly int $tick,
        public int $lots,
    ) {}
}
