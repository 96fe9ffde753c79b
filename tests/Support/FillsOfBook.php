<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Book\Book;
use Lotrik\Book\BookSink;
use Lotrik\Book\RestingOrder;
use Lotrik\Order\Side;

/** Keeps what a book says: the fills of resting orders, and how many outcomes there were. */
final class FillsOfBook implements BookSink
{
    public Book $book;

    /** @var list<array{int, int}> id, lots */
    public array $fills = [];

    public int $outcomes = 0;

    public function preventSelfTrade(RestingOrder $resting, int $taker): bool
    {
        return false;
    }

    public function trade(RestingOrder $resting, int $taker, int $takerAccount, Side $takerSide, int $tick, int $lots, int $takerLeft): int
    {
        $this->fills[] = [$resting->id, $lots];
        $this->outcomes++;

        return $takerLeft;
    }

    public function level(Side $side, int $tick, int $lots, int $orders): void
    {
        $this->outcomes++;
    }
}
