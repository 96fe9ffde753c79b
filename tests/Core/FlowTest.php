<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Book\PriceLevel;
use Lotrik\Desk\Desk;
use Lotrik\Desk\TradingSystem;
use Lotrik\Order\Side;
use Lotrik\Venue\MarketFeed;
use Lotrik\Venue\Simulated\Flow;
use Lotrik\Venue\Simulated\Market;
use Lotrik\Venue\Simulated\Mood;
use Lotrik\Venue\Simulated\NoFeed;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** The simulated market: repeatable, alive, and never crossed. */
final class FlowTest extends TestCase
{
    private static function tape(): MarketFeed
    {
        return new class implements MarketFeed {
            public string $prints = '';

            public int $count = 0;

            public function trade(int $tick, int $lots, Side $aggressor): void
            {
                $this->prints .= "$tick/$lots/{$aggressor->value} ";
                $this->count++;
            }

            public function level(Side $side, int $tick, int $lots, int $orders): void {}
        };
    }

    private static function system(MarketFeed $feed, int $seed): TradingSystem
    {
        $system = new TradingSystem(new Desk());
        $system->add(Market::open(TestSystem::CODE, $seed, 825, $feed));

        return $system;
    }

    public function testTheSameSeedAndCommandsGiveTheSamePrintsByteForByte(): void
    {
        $tapes = [];
        foreach ([4, 4, 5] as $seed) {
            $feed = self::tape();
            $system = self::system($feed, $seed);
            for ($i = 0; $i < 3000; $i++) {
                $system->step($i * 10);
                if ($i === 1000) {
                    $system->push(TestSystem::CODE, 6, $i * 10);
                }
            }
            $tapes[] = $feed->prints;
        }
        self::assertGreaterThan(1000, strlen($tapes[0]));
        self::assertSame($tapes[0], $tapes[1]);
        self::assertNotSame($tapes[0], $tapes[2]);
    }

    public function testAPackedMarketGoesOnWithTheSamePrints(): void
    {
        $first = self::tape();
        $system = self::system($first, 9);
        for ($i = 0; $i < 1000; $i++) {
            $system->step($i * 10);
        }
        $packed = json_decode(json_encode($system->packMarket(TestSystem::CODE), JSON_THROW_ON_ERROR), true);
        $second = self::tape();
        $again = new TradingSystem(new Desk());
        $again->restoreMarket(Market::unpack(TestSystem::CODE, $packed, $second), $packed);
        $before = strlen($first->prints);
        for ($i = 1000; $i < 2000; $i++) {
            $system->step($i * 10);
            $again->step($i * 10);
        }
        self::assertSame(substr($first->prints, $before), $second->prints);
        self::assertSame($system->packMarket(TestSystem::CODE), $again->packMarket(TestSystem::CODE));
    }

    /** @return iterable<array{Mood, int, int}> events a second, least and most */
    public static function rates(): iterable
    {
        yield [Mood::Quiet, 20, 30];
        yield [Mood::Steady, 95, 105];
        yield [Mood::Burst, 450, 550];
    }

    #[DataProvider('rates')]
    public function testHowManyEventsASecond(Mood $mood, int $least, int $most): void
    {
        $flow = Flow::starting(1, 'X', 1000);
        $flow->setMood($mood);
        $events = 0;
        for ($i = 0; $i < 6000; $i++) {
            $events += $flow->due();
        }
        self::assertGreaterThanOrEqual($least * 60, $events);
        self::assertLessThanOrEqual($most * 60, $events);
        self::assertSame($mood, $flow->mood(), 'a mood that was set stays');
    }

    public function testTheBookIsNeverCrossedNeverEmptyAndHasWalls(): void
    {
        foreach (Mood::cases() as $mood) {
            $system = self::system(new NoFeed(), 3);
            $market = $system->market(TestSystem::CODE);
            $market->flow->setMood($mood);
            $wide = $walls = 0;
            for ($i = 0; $i < 4000; $i++) {
                $system->step($i * 10);
                $bid = $market->venue->book->bestBid();
                $ask = $market->venue->book->bestAsk();
                self::assertNotNull($bid, "{$mood->value} step $i");
                self::assertNotNull($ask, "{$mood->value} step $i");
                self::assertLessThan($ask, $bid);
                $wide += $ask - $bid > 4 ? 1 : 0;
                if ($i % 100 === 0) {
                    $walls += count(array_filter(
                        [...$market->venue->book->levels(Side::Buy), ...$market->venue->book->levels(Side::Sell)],
                        static fn(PriceLevel $l): bool => $l->lots >= 90,
                    )) > 0 ? 1 : 0;
                }
            }
            self::assertLessThan(400, $wide, "{$mood->value}: the spread is mostly small");
            self::assertGreaterThan(0, $walls, "{$mood->value}: walls appear");
        }
    }

    public function testAPushMovesTheLastPriceByExactlySoMuchAndPrintsEachLevel(): void
    {
        $feed = self::tape();
        $system = self::system($feed, 2);
        for ($i = 0; $i < 500; $i++) {
            $system->step($i * 10);
        }
        $venue = $system->market(TestSystem::CODE)->venue;
        foreach ([5, -9, 1, -1, 20] as $ticks) {
            $from = (int) $venue->last()?->tick;
            $before = strlen($feed->prints);
            $system->push(TestSystem::CODE, $ticks, 6000);
            self::assertSame($from + $ticks, $venue->last()?->tick);
            $printed = array_values(array_unique(array_map(intval(...), explode(' ', trim(substr($feed->prints, $before))))));
            self::assertSame(range($from + ($ticks <=> 0), $from + $ticks), $printed);
            self::assertLessThanOrEqual(2, $venue->book->bestAsk() - $venue->book->bestBid());
        }
    }

    public function testAPushFillsTheTradersRestingOrderOnItsWay(): void
    {
        $system = new TestSystem();
        $id = $system->place('sell', 3, 'limit', TestSystem::contract()->price($system->last() + 4));
        $system->push(4);
        self::assertSame(3, $system->order($id)->filled);
    }
}
