<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Watching\Bars\BarKind;
use Lotrik\Watching\Bars\Bars;
use Lotrik\Watching\Bars\BarSeries;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\Depth\DepthStep;
use Lotrik\Watching\Depth\DepthSums;
use Lotrik\Watching\Depth\TypicalDepth;
use Lotrik\Watching\Levels\LevelExits;
use Lotrik\Watching\Levels\LevelFigures;
use Lotrik\Watching\Levels\Levels;
use Lotrik\Watching\Levels\LevelState;
use Lotrik\Watching\Levels\MarkedLevel;
use Lotrik\Watching\RecentPrints;
use Lotrik\Watching\TradingDay;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\TestSystem;

/** What the eyes see, each figure against a naive recount over the same random market. */
final class WatchingTest extends TestCase
{
    /** @var list<array{int, int, int, Side}> ms, tick, lots, aggressor */
    private array $prints = [];

    protected function setUp(): void
    {
        $dice = new Randomizer(new Mt19937(7));
        for ($i = $at = 0, $tick = 825; $i < 3000; $i++) {
            $tick += $dice->getInt(-2, 2);
            $this->prints[] = [
                $at += $dice->getInt(0, 300), $tick, $dice->getInt(1, 30), $dice->getInt(0, 1) === 0 ? Side::Buy : Side::Sell,
            ];
        }
    }

    public function testATradingDayCountsWhatANaiveRecountCounts(): void
    {
        $day = new TradingDay();
        $day->begin(1000);
        foreach ($this->prints as [, $tick, $lots, $side]) {
            $day->add($tick, $lots, $side);
        }
        $ticks = array_column($this->prints, 1);
        self::assertSame([$ticks[0], max($ticks), min($ticks), end($ticks)], [$day->open, $day->high, $day->low, $day->last]);
        self::assertSame(array_sum(array_column($this->prints, 2)), $day->lots);
        $turnover = array_sum(array_map(static fn(array $p): int => $p[1] * $p[2], $this->prints));
        self::assertTrue($day->average()?->multipliedBy($day->lots)->isEqualTo($turnover));
        foreach (range(min($ticks) - 1, max($ticks) + 1) as $tick) {
            $there = static fn(array $prints, Side $side): int => array_sum(array_map(
                static fn(array $p): int => $p[1] === $tick && $p[3] === $side ? $p[2] : 0,
                $prints,
            ));
            self::assertSame([$there($this->prints, Side::Buy), $there($this->prints, Side::Sell)], $day->traded()[$tick] ?? [0, 0]);
        }
        self::assertEquals($day, TradingDay::unpack(json_decode((string) json_encode($day->pack()), true)));
        self::assertSame($ticks[0], $day->reference(), 'no settlement yet: a change counts from the first trade');
        $day->begin(2000);
        self::assertSame([end($ticks), null, 0, null], [$day->settlement, $day->open, $day->lots, $day->average()]);
        self::assertSame(end($ticks), $day->reference());
    }

    /** @return iterable<string, array{BarKind, int}> */
    public static function kinds(): iterable
    {
        yield 'ten seconds' => [BarKind::Time, 10];
        yield 'seven prints' => [BarKind::Trades, 7];
        yield 'a hundred lots' => [BarKind::Volume, 100];
        yield 'a lot' => [BarKind::Volume, 1];
        yield 'five ticks' => [BarKind::Range, 5];
    }

    #[DataProvider('kinds')]
    public function testBarsHoldWhatTheirRuleSays(BarKind $kind, int $size): void
    {
        $series = new BarSeries($kind, $size);
        // A bar of one lot is a thousand bars in no time.
        $prints = array_slice($this->prints, 0, $size === 1 ? 30 : 2000);
        foreach ($prints as [$at, $tick, $lots]) {
            $series->add($at, $tick, $lots);
        }
        $bars = $series->last();
        self::assertSame(array_sum(array_column($prints, 2)), array_sum(array_map(static fn($b): int => $b->lots, $bars)));
        self::assertSame(end($prints)[1], end($bars)->close);
        $naive = match ($kind) {
            BarKind::Time => self::grouped($prints, static fn(array $p): int => intdiv($p[0], 1000 * $size)),
            BarKind::Trades => array_chunk($prints, $size),
            BarKind::Volume => array_chunk(
                array_merge(...array_map(static fn(array $p): array => array_fill(0, $p[2], [$p[0], $p[1], 1]), $prints)),
                $size,
            ),
            BarKind::Range => self::stretched($prints, $size),
        };
        self::assertCount(count($naive), $bars);
        foreach ($naive as $i => $group) {
            $ticks = array_column($group, 1);
            self::assertSame(
                [$ticks[0], max($ticks), min($ticks), end($ticks), array_sum(array_column($group, 2))],
                [$bars[$i]->open, $bars[$i]->high, $bars[$i]->low, $bars[$i]->close, $bars[$i]->lots], "bar $i",
            );
            self::assertTrue($kind !== BarKind::Range || max($ticks) - min($ticks) <= $size);
        }
    }

    public function testASeriesThatIsAskedForBeginsWithThePrintsAtHandAndGoesOn(): void
    {
        $recent = new RecentPrints();
        $bars = new Bars($recent);
        $whole = new BarSeries(BarKind::Trades, 9);
        foreach ($this->prints as $i => [$at, $tick, $lots, $side]) {
            $recent->add($i + 1, $at, $tick, $lots, $side);
            $bars->add($at, $tick, $lots);
            $whole->add($at, $tick, $lots);
            if ($i === 1500) {
                $bars->of(BarKind::Trades, 9);
            }
        }
        self::assertSame([2999, 3000], array_column($recent->after(2998), 4));
        self::assertEquals($whole->last(), $bars->of(BarKind::Trades, 9)->last());
    }

    public function testDepthHistoryKeepsWhatRestedAndTradedInColumnsOfThreeLengths(): void
    {
        $dice = new Randomizer(new Mt19937(3));
        $depth = new DepthHistory();
        $seen = $traded = [];
        for ($n = 1, $at = 15_000_000; $n <= 400; $n++, $at += 250) {
            $levels = [];
            for ($tick = 800; $tick < 840; $tick++) {
                if ($dice->getInt(0, 3) > 0) {
                    $levels[$tick] = $dice->getInt(1, 90);
                }
            }
            [, $tick, $lots, $side] = $this->prints[$n];
            $depth->trade($tick, $lots, $side);
            $depth->sample($at, $levels);
            $seen[$at] = $levels;
            $traded[$at] = [$tick, $lots, $side];
        }
        $fine = $depth->between(DepthStep::Quarter, 0, PHP_INT_MAX);
        self::assertSame(array_keys($seen), array_map(static fn($c): int => $c->at, $fine));
        self::assertSame(array_values($seen), array_map(static fn($c): array => $c->levels(), $fine));
        foreach ([DepthStep::TwoSeconds, DepthStep::QuarterMinute] as $step) {
            $after = 0;
            foreach ($depth->between($step, 0, PHP_INT_MAX) as $column) {
                $within = array_filter($seen, static fn(int $t): bool => $t > $after && $t <= $column->at, ARRAY_FILTER_USE_KEY);
                $most = [];
                foreach ($within as $levels) {
                    foreach ($levels as $tick => $lots) {
                        $most[$tick] = max($most[$tick] ?? 0, $lots);
                    }
                }
                ksort($most);
                self::assertSame($most, $column->levels(), "the most of each price in {$step->value} ms");
                $lots = array_sum(array_map(static fn(int $t): int => $traded[$t][1], array_keys($within)));
                self::assertSame($lots, array_sum(array_map(array_sum(...), $column->trades())));
                $after = $column->at;
            }
            self::assertGreaterThan(0, $after);
        }
        $last = $depth->last();
        self::assertSame($seen[$last?->at - 10_000], $depth->before(10_000)?->levels());
        self::assertSame($seen[15_000_000], $depth->before(900_000_000)?->levels(), 'as far back as it goes');
        $depth->trade(812, 7, Side::Sell);
        $just = [812 => [0, 7]];
        foreach (array_filter($traded, static fn(int $t): bool => $t > $last->at - 5_000, ARRAY_FILTER_USE_KEY) as [$tick, $lots, $side]) {
            $just[$tick] ??= [0, 0];
            $just[$tick][$side === Side::Buy ? 0 : 1] += $lots;
        }
        self::assertEquals($just, $depth->justTraded(5_000), 'what no column holds yet counts too');
        self::assertSame(
            [15_000_250, 15_000_500],
            array_map(static fn($c): int => $c->at, $depth->between(DepthStep::Quarter, 15_000_000, 15_000_500)),
        );
    }

    public function testTheFloorEndsAColumnEachQuarterOfASecondAndItHoldsTheBook(): void
    {
        $system = new TestSystem();
        $market = $system->system->market(TestSystem::CODE);
        $depth = $system->system->desk->quote(TestSystem::CODE)->depth;
        for ($columns = 1; $columns <= 40; $columns++) {
            $system->step(25);
            self::assertCount($columns, $depth->between(DepthStep::Quarter, 0, PHP_INT_MAX));
            $book = [];
            foreach ([Side::Buy, Side::Sell] as $side) {
                foreach ($market->venue->book->levels($side) as $level) {
                    $book[$level->tick] = $level->lots;
                }
            }
            ksort($book);
            self::assertSame($book, $depth->last()?->levels());
        }
        $quote = $system->system->desk->quote(TestSystem::CODE);
        $traded = array_sum(array_column($quote->prints->all(), 2));
        self::assertSame(
            $traded,
            array_sum(array_map(
                static fn($c): int => array_sum(array_map(array_sum(...), $c->trades())),
                $depth->between(DepthStep::Quarter, 0, PHP_INT_MAX),
            )) + array_sum(array_map(array_sum(...), $depth->unsampled())),
        );
    }

    public function testWhatIsWatchedIsOfTheMarketAndOutlivesARestartAsFarAsItIsKept(): void
    {
        $system = new TestSystem();
        $system->step(300);
        $system->nextDay();
        $system->step(200);
        $before = $system->system->desk->quote(TestSystem::CODE);
        $day = $before->day->pack();
        $newest = $before->prints->newest();
        self::assertNotNull($day['settlement']);
        $system->restart();
        $after = $system->system->desk->quote(TestSystem::CODE);
        self::assertSame($day, $after->day->pack(), 'the day with its settlement and its volume');
        self::assertSame([], $after->prints->all(), 'the tape is kept in memory alone');
        $system->step(100);
        self::assertSame($newest + 1, $after->prints->all()[0][4], 'prints go on counting');
        self::assertSame($after->day->lots, $day['lots'] + array_sum(array_column($after->prints->all(), 2)));
    }

    public function testDepthHistoryStaysWithinItsBounds(): void
    {
        $depth = new DepthHistory();
        for ($n = 1; $n <= DepthStep::Quarter->kept() + 50; $n++) {
            $depth->sample($n * 250, [825 => $n % 60_000, 900 => 70_000]);
        }
        $fine = $depth->between(DepthStep::Quarter, 0, PHP_INT_MAX);
        self::assertCount(DepthStep::Quarter->kept(), $fine);
        self::assertSame(51 * 250, $fine[0]->at);
        self::assertSame(
            [825 => 51, 900 => 0xFFFF],
            $fine[0]->levels(),
            'a level too large for 16 bits is cut, and does not begin again from 0',
        );
        $depth->sample($depth->last()->at, [825 => 1]);
        self::assertCount(DepthStep::Quarter->kept(), $depth->between(DepthStep::Quarter, 0, PHP_INT_MAX));
        self::assertNotSame(1, $depth->last()->levels()[825], 'while the clock stands there is no new column');
    }

    public function testAContractsHabitIsWhatItsPricesHeldInTheLastTwoMinutes(): void
    {
        $dice = new Randomizer(new Mt19937(5));
        $typical = new TypicalDepth();
        self::assertSame([0, 0], [$typical->percentile(99), $typical->unusual()]);
        $kept = [];
        for ($n = 0; $n < 700; $n++) {
            $levels = [];
            for ($tick = 0; $tick < 10; $tick++) {
                $levels[$tick] = $dice->getInt(1, 40) + ($n < 200 ? 500 : 0);
            }
            $typical->add($levels);
            $kept[] = $levels;
        }
        $all = array_merge(...array_slice($kept, -480));
        sort($all);
        foreach ([1, 50, 99, 100] as $p) {
            self::assertSame($all[(int) ceil(count($all) * $p / 100) - 1], $typical->percentile($p));
        }
        self::assertSame(5 * $typical->percentile(50), $typical->unusual());
    }

    public function testSumsAndImbalance(): void
    {
        $bids = [100 => 5, 98 => 7, 95 => 40];
        $asks = [101 => 1, 102 => 3, 110 => 90];
        $near = DepthSums::of($bids, $asks, 3);
        self::assertSame([12, 4, 50], [$near->bids, $near->asks, $near->imbalance()]);
        $wide = DepthSums::of($bids, $asks, 6);
        self::assertSame([52, 4], [$wide->bids, $wide->asks]);
        self::assertSame(0, DepthSums::of([], [], 5)->imbalance());
        self::assertSame(-100, DepthSums::of([], $asks, 5)->imbalance());
    }

    public function testAMarkedLevelIsUntouchedTouchedHeldOrBroken(): void
    {
        $depth = new DepthHistory();
        $levels = new Levels($depth);
        $watch = $levels->of(new MarkedLevel(830, 832, 0));
        $trade = static function (int $tick, int $lots = 1, Side $side = Side::Buy) use ($levels): void {
            $levels->trade($tick, $lots, $side);
        };
        $trade(825);
        self::assertSame(LevelState::Untouched, $watch->state);
        $trade(831, 4);
        $trade(830, 2, Side::Sell);
        self::assertSame([LevelState::Touched, 4, 2], [$watch->state, $watch->bought, $watch->sold]);
        $trade(829);
        self::assertSame(LevelState::Held, $watch->state);
        $trade(832);
        self::assertSame(LevelState::Touched, $watch->state);
        $trade(833);
        self::assertSame(LevelState::Broken, $watch->state);
        $trade(831);
        $trade(820);
        self::assertSame(LevelState::Broken, $watch->state, 'what broke once does not hold any more');
        $gap = $levels->of(new MarkedLevel(840, 840, 0));
        $trade(839);
        $trade(841);
        self::assertSame(LevelState::Broken, $gap->state, 'jumped over');
        self::assertSame([3, 0, -3], [$gap->level->distance(837), $gap->level->distance(840), $gap->level->distance(843)]);
    }

    public function testALevelThatIsCaughtUpKnowsWhatOneThatWasFollowedKnows(): void
    {
        $depth = new DepthHistory();
        $followed = new Levels($depth);
        $marked = [new MarkedLevel(815, 818, 0), new MarkedLevel(826, 826, 0), new MarkedLevel(840, 860, 0)];
        foreach ($marked as $level) {
            $followed->of($level);
        }
        // One print a column: within a column the order of prints is not kept.
        foreach (array_slice($this->prints, 0, 1500) as $i => [, $tick, $lots, $side]) {
            $depth->trade($tick, $lots, $side);
            $followed->trade($tick, $lots, $side);
            $depth->sample(250 * ($i + 1), [$tick => 1]);
        }
        foreach ($marked as $level) {
            $late = (new Levels($depth))->of($level);
            $early = $followed->of($level);
            $naive = array_filter(
                array_slice($this->prints, 0, 1500),
                static fn(array $p): bool => $p[1] >= $level->low && $p[1] <= $level->high,
            );
            self::assertSame(array_sum(array_column($naive, 2)), $early->bought + $early->sold);
            self::assertSame([$early->bought, $early->sold, $early->state], [$late->bought, $late->sold, $late->state]);
        }
    }

    /** Trades that stand in no column yet, because the quarter of a second is not over or the market is paused: their own time counts. */
    public function testWhatTradedJustBeforeALevelWasMarkedDoesNotTouchIt(): void
    {
        $depth = new DepthHistory();
        $prints = new RecentPrints();
        $depth->sample(250, [826 => 1]);
        foreach ([[1, 300, 3], [2, 500, 2]] as [$number, $at, $lots]) {
            $depth->trade(826, $lots, Side::Buy);
            $prints->add($number, $at, 826, $lots, Side::Buy);
        }
        foreach ([[500, LevelState::Untouched, 0], [400, LevelState::Touched, 2], [250, LevelState::Touched, 5]] as [$since, $state, $bought]) {
            $watch = (new Levels($depth, $prints))->of(new MarkedLevel(826, 826, $since));
            self::assertSame([$state, $bought], [$watch->state, $watch->bought], "marked at $since");
        }
    }

    public function testExitsGoBehindALevelOrBeforeIt(): void
    {
        $shelf = new LevelExits(new MarkedLevel(820, 822, 0), 2);
        self::assertSame([818, 824], [$shelf->of(Side::Buy), $shelf->of(Side::Sell)]);
        self::assertSame([Side::Buy, 13], $shelf->ofNextOrder(Role::Stop, 830, 831), 'a buy above the level has its stop below it');
        self::assertSame([Side::Sell, 6], $shelf->ofNextOrder(Role::Target, 830, 831), 'a sell above it has its target before it');
        self::assertSame([Side::Sell, 14], $shelf->ofNextOrder(Role::Stop, 810, 811));
        self::assertSame([Side::Buy, 7], $shelf->ofNextOrder(Role::Target, 810, 811));
    }

    public function testOnlySoManySeriesAndLevelsAreFollowed(): void
    {
        $bars = new Bars(new RecentPrints());
        foreach (range(1, 20) as $size) {
            $bars->of(BarKind::Trades, $size);
        }
        $bars->add(1, 825, 3);
        self::assertSame([], $bars->of(BarKind::Trades, 1)->last(), 'one that was given up begins anew');
        self::assertCount(1, $bars->of(BarKind::Trades, 20)->last());
        $levels = new Levels(new DepthHistory());
        foreach (range(1, 300) as $tick) {
            $levels->of(new MarkedLevel($tick, $tick, 0));
        }
        $levels->trade(1, 5, Side::Buy);
        $levels->trade(300, 5, Side::Buy);
        self::assertSame([0, 5], [$levels->of(new MarkedLevel(1, 1, 0))->bought, $levels->of(new MarkedLevel(300, 300, 0))->bought]);
    }

    public function testWhatMakesNoSenseIsRefused(): void
    {
        foreach ([
            static fn() => new BarSeries(BarKind::Range, 0), static fn() => new MarkedLevel(0, 5, 0),
            static fn() => new MarkedLevel(9, 5, 0),
        ] as $odd) {
            try {
                $odd();
                self::fail('taken');
            } catch (\DomainException $fault) {
                self::assertNotSame('', $fault->getMessage());
            }
        }
    }

    public function testALevelMarkedLaterKnowsWhatTradedSinceItsMoment(): void
    {
        $depth = new DepthHistory();
        foreach ([[250, 831, 5], [500, 825, 2], [750, 831, 7]] as [$at, $tick, $lots]) {
            $depth->trade($tick, $lots, Side::Sell);
            $depth->sample($at, [830 => 10]);
        }
        $prints = new RecentPrints();
        $levels = new Levels($depth, $prints);
        self::assertSame(12, $levels->of(new MarkedLevel(831, 831, 0))->sold);
        self::assertSame(7, $levels->of(new MarkedLevel(831, 831, 500))->sold);
        $depth->trade(831, 3, Side::Sell);
        $prints->add(1, 800, 831, 3, Side::Sell);
        self::assertSame(10, $levels->of(new MarkedLevel(830, 831, 500))->sold, 'what no column holds yet counts too');
    }

    public function testLotsInsideALevelAndHowTheyChanged(): void
    {
        $depth = new DepthHistory();
        $level = new MarkedLevel(830, 831, 0);
        $at = 0;
        $for = static function (int $seconds, array $levels) use ($depth, &$at): void {
            for ($n = 0; $n < 4 * $seconds; $n++) {
                $depth->sample($at += 250, $levels);
            }
        };
        $for(60, [829 => 99, 830 => 100]);
        $for(30, [830 => 100, 831 => 50, 832 => 99]);
        self::assertFalse(LevelFigures::of($level, $depth)->halved);
        $for(8, [830 => 70]);
        $figures = LevelFigures::of($level, $depth);
        self::assertSame([70, -80, -30, true], [$figures->resting, $figures->change10, $figures->change60, $figures->halved]);
        self::assertSame([0, 0, 0, false], array_values((array) LevelFigures::of($level, new DepthHistory())));
    }

    /**
     * @param list<array{int, int, int, Side}> $prints
     *
     * @return list<list<array{int, int, int, Side}>>
     */
    private static function grouped(array $prints, \Closure $key): array
    {
        $groups = [];
        foreach ($prints as $print) {
            $groups[$key($print)][] = $print;
        }

        return array_values($groups);
    }

    /**
     * @param list<array{int, int, int, Side}> $prints
     *
     * @return list<list<array{int, int, int, Side}>>
     */
    private static function stretched(array $prints, int $size): array
    {
        $groups = [];
        foreach ($prints as $print) {
            $ticks = [...array_column($groups[count($groups) - 1] ?? [], 1), $print[1]];
            if ($groups === [] || max($ticks) - min($ticks) > $size) {
                $groups[] = [];
            }
            $groups[count($groups) - 1][] = $print;
        }

        return $groups;
    }
}
