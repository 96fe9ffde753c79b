<?php

declare(strict_types=1);

namespace Tests\Support;

use Lotrik\Book\Book;
use Lotrik\Order\Side;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** A random stream of operations on a book, for the comparison with the npm library and for the benchmark. */
final class BookOperations
{
    /** @return list<array{string, int, string, int, int}> op, id, side, price, size */
    public static function random(int $count, int $seed): array
    {
        $dice = new Randomizer(new Mt19937($seed));
        $stream = [];
        $ids = [];
        for ($id = 1; $id <= $count; $id++) {
            $roll = $dice->getInt(0, 99);
            $side = $dice->getInt(0, 1) === 0 ? 'buy' : 'sell';
            if ($roll < 60 || $ids === []) {
                $sign = $side === 'buy' ? 1 : -1;
                $stream[] = ['limit', $id, $side, 1000 - $sign * $dice->getInt(-3, 25), $dice->getInt(1, 20)];
                $ids[] = $id;
            } elseif ($roll < 75) {
                $stream[] = ['market', $id, $side, 0, $dice->getInt(1, 25)];
            } else {
                $at = $dice->getInt(0, count($ids) - 1);
                $stream[] = ['cancel', $ids[$at], '', 0, 0];
                $ids[$at] = $ids[count($ids) - 1];
                array_pop($ids);
            }
        }

        return $stream;
    }

    /** @param list<array{string, int, string, int, int}> $stream */
    public static function asJsonLines(array $stream): string
    {
        return implode("\n", array_map(json_encode(...), $stream))."\n";
    }

    /** @param array{string, int, string, int, int} $operation */
    public static function apply(array $operation, Book $book): void
    {
        [$op, $id, $side, $price, $size] = $operation;
        if ($op === 'limit') {
            $book->limit($id, 0, $side === 'buy' ? Side::Buy : Side::Sell, $price, $size);
        } elseif ($op === 'market') {
            $book->take($id, 0, $side === 'buy' ? Side::Buy : Side::Sell, null, $size);
        } else {
            $book->cancel($id);
        }
    }
}
