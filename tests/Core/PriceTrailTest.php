<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\Side;
use Lotrik\Watching\PriceTrail;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** The way of a price is kept without the prints that say nothing new, and never more of it than is said. */
final class PriceTrailTest extends TestCase
{
    /** @return list<array{int, int, string}> */
    private static function kept(PriceTrail $trail, int $since = 0): array
    {
        $kept = [];
        foreach ($trail->since($since) as [$times, $prints]) {
            foreach ($times as $i => $at) {
                $kept[] = [$at, $prints[$i] >> 1, ($prints[$i] & 1) === 1 ? 'buy' : 'sell'];
            }
        }

        return $kept;
    }

    public function testPrintsAtThePriceAndSideOfTheOneBeforeAreLeftOutButForTheFirstOfFiveSeconds(): void
    {
        $trail = new PriceTrail();
        foreach ([[10_000, -3, 'buy'], [10_001, -3, 'buy'], [10_002, -3, 'buy'], [10_003, -3, 'sell'], [10_004, -4, 'sell'], [14_999, -4, 'sell'],
            [15_000, -4, 'sell'], [15_100, -4, 'sell'], [15_200, -4, 'sell'], [15_300, 7, 'buy']] as [$at, $tick, $side]) {
            $trail->add($at, $tick, Side::from($side));
        }
        self::assertSame([
            [10_000, -3, 'buy'], [10_003, -3, 'sell'], [10_004, -4, 'sell'], [15_000, -4, 'sell'], [15_300, 7, 'buy'],
        ], self::kept($trail));
        self::assertSame([10_000, 15_300, 5], [$trail->oldest(), $trail->newest(), $trail->made()]);
        $again = new PriceTrail();
        $again->unpack(5, PriceTrail::later($trail->packAfter(1), 500));
        self::assertSame([10_503, -3, 'sell'], self::kept($again)[0]);
    }

    public function testNoMoreIsKeptThanIsSaidWhicheverWayItComes(): void
    {
        $trail = new PriceTrail();
        $dice = new Randomizer(new Mt19937(3));
        $pieces = [];
        $packed = 0;
        for ($i = 0; $i < PriceTrail::KEPT + 30_000; $i++) {
            $trail->add(1_000 * $i, $i % 7, Side::Buy);
            if ($dice->getInt(0, 40) === 0) {
                $pieces[] = [$trail->made(), $trail->packAfter($packed)];
                $packed = $trail->made();
            }
        }
        $pieces[] = [$trail->made(), $trail->packAfter($packed)];
        $kept = self::kept($trail);
        self::assertGreaterThanOrEqual(PriceTrail::KEPT, count($kept));
        self::assertLessThan(PriceTrail::KEPT + 1_000, count($kept));
        self::assertSame(1_000 * (PriceTrail::KEPT + 29_999), $trail->newest());
        // The newest piece first, as a start brings them back.
        $back = new PriceTrail();
        foreach (array_reverse($pieces) as [$number, $body]) {
            $back->unpack($number, $body);
        }
        $found = self::kept($back);
        self::assertSame(array_slice($kept, -PriceTrail::KEPT), array_slice($found, -PriceTrail::KEPT));
        self::assertLessThan(PriceTrail::KEPT + 2_000, count($found));
        // Newest first, but several of a time in the order in which they came: as they lie in a row together.
        $together = new PriceTrail();
        foreach (array_reverse(array_chunk($pieces, 7)) as $row) {
            foreach ($row as [$number, $body]) {
                $together->unpack($number, $body);
            }
        }
        $last = static fn(array $of): string => md5((string) json_encode(array_slice($of, -PriceTrail::KEPT + 2_000)));
        // To show how a hundred thousand differ would take minutes.
        self::assertSame($last($kept), $last(self::kept($together)));
        // What is asked from a moment on begins at it or a little before.
        $late = self::kept($trail, 1_000 * (PriceTrail::KEPT + 20_000));
        self::assertLessThanOrEqual(1_000 * (PriceTrail::KEPT + 20_000), $late[0][0]);
        self::assertLessThan(12_000, count($late));
    }
}
