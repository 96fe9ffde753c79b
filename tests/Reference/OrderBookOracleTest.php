<?php

declare(strict_types=1);

namespace Tests\Reference;

use Lotrik\Book\Book;
use Lotrik\Book\PriceLevel;
use Lotrik\Order\Side;
use PHPUnit\Framework\TestCase;
use Tests\Support\BookOperations;
use Tests\Support\FillsOfBook;

/**
 * The matching engine against the npm package `nodejs-order-book` (price-time priority, limit, market, cancel) on one
 * random stream: the same resting orders fill, in the same order, for the same lots, and the same depth remains.
 */
final class OrderBookOracleTest extends TestCase
{
    private const OPERATIONS = 20_000;

    public function testTheSameStreamGivesTheSameFillsAndTheSameDepth(): void
    {
        $stream = BookOperations::random(self::OPERATIONS, 7);
        $file = (string) tempnam(sys_get_temp_dir(), 'stream');
        file_put_contents($file, BookOperations::asJsonLines($stream));
        exec('node '.escapeshellarg(__DIR__.'/oracles/order-book.mjs').' < '.escapeshellarg($file).' 2>&1', $lines, $status);
        unlink($file);
        self::assertSame(0, $status, implode("\n", array_slice($lines, 0, 5)));
        self::assertCount(self::OPERATIONS + 1, $lines);

        $sink = new FillsOfBook();
        $book = $sink->book = new Book($sink);
        $fills = 0;
        foreach ($stream as $i => $operation) {
            $sink->fills = [];
            BookOperations::apply($operation, $book);
            self::assertSame(json_decode($lines[$i], true), $sink->fills, "operation $i ".json_encode($operation));
            $fills += count($sink->fills);
        }
        self::assertGreaterThan(4_000, $fills);
        $depth = static fn(Side $side): array => array_map(static fn(PriceLevel $l): array => [$l->tick, $l->lots], $book->levels($side));
        $theirs = json_decode($lines[self::OPERATIONS], true);
        self::assertEqualsCanonicalizing($theirs['asks'], $depth(Side::Sell));
        self::assertEqualsCanonicalizing($theirs['bids'], $depth(Side::Buy));
    }
}
