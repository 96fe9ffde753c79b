<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Book\Book;
use Lotrik\Book\BookSink;
use Lotrik\Book\RestingOrder;
use Lotrik\Order\Side;
use PHPUnit\Framework\TestCase;

final class BookTest extends TestCase implements BookSink
{
    /** @var list<array{int, int, int}> resting id, tick, lots */
    private array $trades = [];

    private Book $book;

    protected function setUp(): void
    {
        $this->book = new Book($this);
    }

    public function preventSelfTrade(RestingOrder $resting, int $taker): bool
    {
        $this->book->cancel($resting->id);

        return true;
    }

    public function trade(RestingOrder $resting, int $taker, int $takerAccount, Side $takerSide, int $tick, int $lots, int $takerLeft): int
    {
        $this->trades[] = [$resting->id, $tick, $lots];

        return $takerLeft;
    }

    public function level(Side $side, int $tick, int $lots, int $orders): void {}

    public function testPriceThenTime(): void
    {
        $this->book->limit(1, 0, Side::Sell, 102, 5);
        $this->book->limit(2, 0, Side::Sell, 101, 2);
        $this->book->limit(3, 0, Side::Sell, 101, 3);
        $this->book->limit(4, 0, Side::Buy, 102, 6);
        self::assertSame([[2, 101, 2], [3, 101, 3], [1, 102, 1]], $this->trades);
        self::assertSame([102, null], [$this->book->bestAsk(), $this->book->bestBid()]);
    }

    public function testWhatDoesNotFillRests(): void
    {
        $this->book->limit(1, 0, Side::Sell, 101, 2);
        $this->book->limit(2, 0, Side::Buy, 101, 5);
        self::assertSame([101, null], [$this->book->bestBid(), $this->book->bestAsk()]);
        self::assertSame(3, $this->book->level(Side::Buy, 101)?->lots);
    }

    public function testLoweringKeepsThePlaceInTheQueue(): void
    {
        $this->book->limit(1, 0, Side::Buy, 100, 5);
        $this->book->limit(2, 0, Side::Buy, 100, 5);
        $this->book->reduce(1, 3);
        self::assertSame([0, 2], [$this->book->ahead(1), $this->book->ahead(2)]);
        $this->book->take(3, 0, Side::Sell, null, 3);
        self::assertSame([[1, 100, 2], [2, 100, 1]], $this->trades);
    }

    public function testTheNextBestPriceIsFoundAcrossAWideGap(): void
    {
        $this->book->limit(1, 0, Side::Buy, 100_000, 1);
        $this->book->limit(2, 0, Side::Buy, 100, 1);
        $this->book->cancel(1);
        self::assertSame(100, $this->book->bestBid());
        $this->book->cancel(2);
        self::assertNull($this->book->bestBid());
    }

    public function testAnAccountDoesNotMeetItself(): void
    {
        $this->book->limit(1, 7, Side::Sell, 101, 2);
        $this->book->limit(2, 0, Side::Sell, 101, 2);
        self::assertSame(1, $this->book->take(3, 7, Side::Buy, 101, 3));
        self::assertSame([[2, 101, 2]], $this->trades);
    }
}
