<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Money\Currency;
use Lotrik\Money\Money;
use Lotrik\Risk\DayLine;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** How a day went: never more points than said, its best and its worst among them, the same over a restart. */
final class DayLineTest extends TestCase
{
    private static function money(string $amount): Money
    {
        return Money::of($amount, Currency::of('EUR'));
    }

    public function testPointsLieApartAndThereAreNeverMoreThanSaid(): void
    {
        $line = new DayLine(0);
        $most = 0;
        for ($at = 0; $at < 24 * 3_600_000; $at += 1_000) {
            if ($line->isDue($at, false)) {
                $line->add($at, self::money((string) ($at % 97)), self::money('0'));
            }
            $most = max($most, count($line->points()));
        }
        self::assertSame(DayLine::MOST, $most);
        $times = array_column($line->points(), 0);
        self::assertSame(0, $times[0], 'it begins where the day did');
        self::assertGreaterThan(24 * 3_600_000 - 600_000, end($times));
        // A fill is drawn however short ago the last point was, and of one moment the last word counts.
        self::assertFalse($line->isDue(end($times) + 1, false));
        self::assertTrue($line->isDue(end($times) + 1, true));
        $count = count($times);
        $line->add(end($times), self::money('7'), self::money('3'));
        $points = $line->points();
        self::assertSame([$count, '7.00', '3.00'], [count($points), end($points)[1], end($points)[2]]);
    }

    public function testTheBestAndTheWorstStandInTheLineThoughNoPointFellOnThem(): void
    {
        $line = new DayLine(0);
        $line->add(1_000, self::money('0'), self::money('0'));
        $line->saw(2_000, self::money('40'));
        $line->saw(2_500, self::money('30'));
        $line->saw(3_000, self::money('-15'));
        $line->add(6_000, self::money('5'), self::money('5'));
        self::assertSame([[2_000, '40.00'], [3_000, '-15.00']], [$line->best(), $line->worst()]);
        self::assertSame([1_000, 2_000, 3_000, 6_000], array_column($line->points(), 0));
        self::assertSame('0.00', $line->points()[1][2]);
        $again = DayLine::unpack($line->pack());
        self::assertEquals($line, $again);
        self::assertSame([null, null], [(new DayLine(0))->best(), (new DayLine(0))->worst()]);
    }

    /** Bought 1 and sold 8 ticks higher: 20.00 less 1.24 of fees; then the next day begins, and the one before is still known. */
    public function testTheDeskDrawsItAndKnowsTheDayBefore(): void
    {
        $system = new TestSystem();
        $desk = $system->system->desk;
        $account = $desk->state->accounts[1];
        $system->place('buy', 1);
        $system->push(8);
        $system->place('sell', 1);
        $line = $desk->lossWatch()->line($account, $system->now());
        $points = $line->points();
        self::assertSame('-0.62', $points[0][2], 'the first fill has paid its fee');
        self::assertSame(end($points)[1], end($points)[2], 'flat: what it stands at is what has closed');
        self::assertNotNull($line->best());
        $closed = end($points)[2];
        $kept = $desk->lossWatch()->takeLines();
        self::assertSame([1], array_keys($kept));
        self::assertSame([], $desk->lossWatch()->takeLines(), 'kept already');
        self::assertNull($desk->lossWatch()->lineBefore($account, $system->now()));
        $system->nextDay();
        self::assertSame(['0.00'], array_unique(array_column($desk->lossWatch()->line($account, $system->now())->points(), 2)));
        $before = $desk->lossWatch()->lineBefore($account, $system->now())?->points();
        self::assertSame($closed, end($before)[2]);
    }
}
