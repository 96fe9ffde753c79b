<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Document\InvalidDocument;
use Lotrik\Document\Node;
use Lotrik\Money\Currency;
use Lotrik\Money\Money;
use Lotrik\Risk\Limits\AccountDay;
use Lotrik\Risk\Limits\Limits;
use Lotrik\Risk\Limits\Window;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** The limits document: what it takes, what it refuses and where, which of two is the tighter, and its times over clock changes. */
final class LimitsDocumentTest extends TestCase
{
    private const WHOLE = [
        'format' => 'lotrik.limits/1', 'day' => ['zone' => 'Europe/Lisbon', 'rolls' => '22:00'], 'daily_loss' => '500.00',
        'drawdown' => ['open' => '300.00', 'closed' => '200.00'], 'keep_profit' => ['percent' => '60', 'from' => '150.00'],
        'orders_a_minute' => 30, 'losses_in_a_row' => 3, 'pause' => ['loss' => '100.00', 'minutes' => 15],
        'flatten_before_close' => 10, 'no_entries' => [
            ['date' => '2026-12-04', 'from' => '13:25', 'until' => '13:40', 'zone' => 'UTC'],
            ['days' => [1, 5], 'from' => '14:25', 'until' => '14:35', 'zone' => 'Europe/Lisbon'],
        ],
        'each_contract' => [
            'order_lots' => 5, 'position_lots' => 10, 'working_orders' => 6, 'trade_risk' => ['money' => '100.00', 'percent' => '0.5'],
            'band_ticks' => 20, 'stop_required' => true,
        ],
        'contracts' => ['DULZ6' => [
            'order_lots' => 2, 'position_lots' => 4, 'working_orders' => null, 'trade_risk' => null, 'band_ticks' => null, 'stop_required' => false,
        ]],
    ];

    private const LEAST = ['format' => 'lotrik.limits/1', 'daily_loss' => '500.00'];

    /** @param array<string, mixed> $document */
    private static function read(array $document): Limits
    {
        return Limits::asked(Node::of($document), Currency::of('EUR'), static fn(string $code): bool => $code === 'DULZ6');
    }

    private static function ms(string $time): int
    {
        return 1000 * (new \DateTimeImmutable($time))->getTimestamp();
    }

    public function testAWholeDocumentIsWrittenAsItWasRead(): void
    {
        self::assertSame(self::WHOLE, self::read(self::WHOLE)->toArray());
        $least = self::read(self::LEAST);
        self::assertNull($least->in('DULZ6')->orderLots);
        self::assertSame($least->toArray(), Limits::fromArray($least->toArray(), Currency::of('EUR'))->toArray());
    }

    /** What is set for one contract stands beside what is set for all of them. */
    public function testOfEveryContractAndOneTheTighterHolds(): void
    {
        $in = self::read(self::WHOLE)->in('DULZ6');
        self::assertSame([2, 4, 6, 20, true], [$in->orderLots, $in->positionLots, $in->workingOrders, $in->bandTicks, $in->stopRequired]);
        self::assertSame('50.00', $in->mostRisk(Money::of('10000', Currency::of('EUR')))?->exact(), 'half a percent is less than 100.00');
        self::assertSame('100.00', $in->mostRisk(Money::of('90000', Currency::of('EUR')))?->exact());
    }

    /** @return iterable<string, array{array<string, mixed>, string, string}> changed fields, pointer, what would be right */
    public static function faults(): iterable
    {
        yield 'another format' => [['format' => 'lotrik.limits/2'], '/format', 'lotrik.limits/1'];
        yield 'no daily loss' => [['daily_loss' => null], '/daily_loss', 'a text'];
        yield 'a loss that is a number' => [['daily_loss' => 500], '/daily_loss', 'a text'];
        yield 'a negative loss' => [['daily_loss' => '-5.00'], '/daily_loss', 'above zero'];
        yield 'a loss of nothing' => [['daily_loss' => '0.00'], '/daily_loss', 'above zero'];
        yield 'too many places' => [['daily_loss' => '5.005'], '/daily_loss', 'at most 2 decimals'];
        yield 'an exponent' => [['daily_loss' => '5e3'], '/daily_loss', 'above zero'];
        yield 'unknown zone' => [['day' => ['zone' => 'Kestrel/Bay', 'rolls' => '00:00']], '/day/zone', 'IANA'];
        yield 'no time of day' => [['day' => ['zone' => 'UTC', 'rolls' => '24:00']], '/day/rolls', 'a time of day'];
        yield 'an unknown field' => [['daily_gain' => '5.00'], '/daily_gain', 'only'];
        yield 'a limit of nothing' => [['each_contract' => ['order_lots' => 0]], '/each_contract/order_lots', 'from 1'];
        yield 'half a lot' => [['each_contract' => ['order_lots' => 1.5]], '/each_contract/order_lots', 'a whole number'];
        yield 'an order larger than a position' => [
            ['each_contract' => ['order_lots' => 5, 'position_lots' => 4]], '/each_contract/order_lots', 'no more than position_lots, 4',
        ];
        yield 'the same in one contract' => [
            ['contracts' => ['DULZ6' => ['position_lots' => 1, 'order_lots' => 2]]],
            '/contracts/DULZ6/order_lots', 'no more than position_lots, 1',
        ];
        yield 'a trade larger than a day' => [
            ['each_contract' => ['trade_risk' => ['money' => '500.01']]], '/each_contract/trade_risk', 'no more than daily_loss, 500.00',
        ];
        yield 'a risk of nothing' => [['each_contract' => ['trade_risk' => []]], '/each_contract/trade_risk', 'one of the two'];
        yield 'more than all' => [['each_contract' => ['trade_risk' => ['percent' => '100.5']]], '/each_contract/trade_risk/percent', 'at most 100'];
        yield 'a contract that is not listed' => [['contracts' => ['XXXZ6' => []]], '/contracts/XXXZ6', 'listed contract'];
        yield 'keeping all' => [['keep_profit' => ['percent' => '100', 'from' => '50.00']], '/keep_profit/percent', 'less than 100'];
        yield 'keeping without a percentage' => [['keep_profit' => ['from' => '50.00']], '/keep_profit/percent', 'a percentage'];
        yield 'a pause after more than a day may lose' => [['pause' => ['loss' => '501.00', 'minutes' => 5]], '/pause', 'no more than daily_loss'];
        yield 'a pause of no time' => [['pause' => ['loss' => '50.00', 'minutes' => 0]], '/pause/minutes', 'from 1'];
        yield 'a window on no day' => [['no_entries' => [['from' => '14:00', 'until' => '14:05']]], '/no_entries/0', 'one of the two'];
        yield 'a window on days and a date' => [
            ['no_entries' => [['days' => [1], 'date' => '2026-12-04', 'from' => '14:00', 'until' => '14:05']]], '/no_entries/0', 'one of the two',
        ];
        yield 'a date that is none' => [['no_entries' => [['date' => '2026-02-30', 'from' => '14:00', 'until' => '14:05']]], '/no_entries/0/date', 'a date'];
        yield 'an eighth day' => [['no_entries' => [['days' => [8], 'from' => '14:00', 'until' => '14:05']]], '/no_entries/0/days/0', '1 (Monday) to 7'];
        yield 'a window of no length' => [['no_entries' => [['days' => [1], 'from' => '14:00', 'until' => '14:00']]], '/no_entries/0/until', 'another time'];
        yield 'too many windows' => [['no_entries' => array_fill(0, 51, ['days' => [1], 'from' => '14:00', 'until' => '14:05'])], '/no_entries', 'at most 50'];
    }

    /** @param array<string, mixed> $changed */
    #[DataProvider('faults')]
    public function testAFaultNamesItsPlaceAndWhatWouldBeRight(array $changed, string $pointer, string $right): void
    {
        try {
            self::read($changed + self::LEAST);
            self::fail('it was taken');
        } catch (InvalidDocument $fault) {
            self::assertSame($pointer, $fault->pointer);
            self::assertStringContainsString($right, $fault->getMessage());
        }
    }

    /** The yen has no decimals. Source: ISO 4217. */
    public function testAmountsHaveTheDecimalsOfTheirCurrency(): void
    {
        $yen = Currency::of('JPY');
        $of = static fn(string $loss): Limits => Limits::asked(Node::of(['daily_loss' => $loss] + self::LEAST), $yen, static fn(): bool => true);
        self::assertSame('70000', $of('70000')->dailyLoss->exact());
        $this->expectExceptionMessage('no decimals');
        $of('70000.0');
    }

    public function testOfTwoTheTighterIsTakenOneByOne(): void
    {
        $strict = self::read(self::WHOLE);
        $loose = self::read(self::LEAST);
        self::assertSame(['500.00', 3, 30], [$loose->and($strict)->dailyLoss->exact(), $loose->and($strict)->lossesInARow, $strict->and($loose)->ordersAMinute]);
        self::assertSame($strict->toArray(), $strict->and($loose)->toArray());
        self::assertSame($strict->toArray(), $strict->and($strict)->toArray(), 'the same again is nothing new');
        $other = self::read([
            'daily_loss' => '400.00', 'keep_profit' => ['percent' => '70', 'from' => '200.00'], 'pause' => ['loss' => '50.00', 'minutes' => 5],
            'each_contract' => ['order_lots' => 7, 'trade_risk' => ['money' => '80.00']],
        ] + self::LEAST);
        $both = $strict->and($other)->toArray();
        self::assertSame('400.00', $both['daily_loss']);
        self::assertSame(['percent' => '70', 'from' => '150.00'], $both['keep_profit'], 'more is kept, from sooner on');
        self::assertSame(['loss' => '50.00', 'minutes' => 15], $both['pause'], 'sooner, and for longer');
        self::assertSame(['money' => '80.00', 'percent' => '0.5'], $both['each_contract']['trade_risk']);
        self::assertSame(5, $both['each_contract']['order_lots']);
        // Tighter of each, two limits need not go together: it is read all the same.
        $apart = self::read(['each_contract' => ['order_lots' => 8, 'position_lots' => 9]] + self::LEAST)
            ->and(self::read(['each_contract' => ['order_lots' => 3, 'position_lots' => 3]] + self::LEAST))
            ->and(self::read(['contracts' => ['DULZ6' => ['position_lots' => 2, 'order_lots' => 2]]] + self::LEAST));
        self::assertSame($apart->toArray(), Limits::fromArray($apart->toArray(), Currency::of('EUR'))->toArray());
    }

    /** Random documents: what both allow is what neither forbids, in whatever order they come. */
    public function testWhatTightensDoesNotDependOnTheOrder(): void
    {
        mt_srand($seed = 20261129);
        $some = static fn(int $most): ?int => mt_rand(0, 2) === 0 ? null : mt_rand(1, $most);
        for ($i = 0; $i < 200; $i++) {
            [$a, $b, $c] = array_map(static fn(): Limits => Limits::fromArray(array_filter([
                'daily_loss' => mt_rand(1, 900).'.00', 'orders_a_minute' => $some(60), 'losses_in_a_row' => $some(9),
                'drawdown' => mt_rand(0, 1) === 0 ? null : ['open' => mt_rand(1, 500).'.00'],
                'each_contract' => ['order_lots' => $some(9), 'band_ticks' => $some(40), 'stop_required' => mt_rand(0, 1) === 1],
                'no_entries' => [['days' => [mt_rand(1, 7)], 'from' => '10:00', 'until' => '10:'.mt_rand(10, 59)]],
            ], static fn(mixed $of): bool => $of !== null) + self::LEAST, Currency::of('EUR')), [1, 2, 3]);
            self::assertSame($a->and($b)->and($c)->toArray(), $c->and($a)->and($b)->toArray(), "seed $seed, round $i");
        }
    }

    /** Lisbon goes to summer time on 2027-03-28 and back on 2026-10-25, at 01:00 UTC. Source: EU directive 2000/84/EC. */
    public function testAWindowKeepsItsLocalTimeOverBothClockChanges(): void
    {
        $window = Window::fromNode(Node::of(['days' => [1, 2, 3, 4, 5, 6, 7], 'from' => '14:25', 'until' => '14:35']), 'Europe/Lisbon');
        foreach (['2026-10-24T13:30:00Z', '2026-10-25T14:30:00Z', '2027-03-27T14:30:00Z', '2027-03-28T13:30:00Z'] as $inside) {
            self::assertSame(self::ms($inside) + 300_000, $window->until(self::ms($inside)), $inside);
            self::assertNull($window->until(self::ms($inside) - 3_600_000), "$inside, an hour before");
        }
        self::assertNull($window->until(self::ms('2026-10-25T14:35:00Z')), 'it ends before its end');
        self::assertSame(self::ms('2026-10-25T14:25:00Z'), $window->beginsAfter(self::ms('2026-10-24T13:25:00Z')));
        $night = Window::fromNode(Node::of(['days' => [5], 'from' => '23:50', 'until' => '00:10']), 'UTC');
        self::assertSame(self::ms('2026-11-28T00:10:00Z'), $night->until(self::ms('2026-11-28T00:05:00Z')), 'over midnight it belongs to Friday');
        self::assertNull($night->until(self::ms('2026-11-27T00:05:00Z')));
        $once = Window::fromNode(Node::of(['date' => '2026-12-04', 'from' => '13:25', 'until' => '13:40']), 'UTC');
        self::assertNotNull($once->until(self::ms('2026-12-04T13:30:00Z')));
        self::assertNull($once->until(self::ms('2026-12-11T13:30:00Z')));
        self::assertNull($once->beginsAfter(self::ms('2026-12-05T00:00:00Z')));
    }

    public function testATradingDayRollsAtItsOwnTimeInItsOwnZone(): void
    {
        $day = AccountDay::fromNode(Node::of(['zone' => 'Europe/Lisbon', 'rolls' => '22:00']), null);
        self::assertSame(self::ms('2026-10-24T21:00:00Z'), $day->begins(self::ms('2026-10-25T12:00:00Z')), 'summer time when it began');
        self::assertSame(self::ms('2026-10-25T22:00:00Z'), $day->ends(self::ms('2026-10-25T12:00:00Z')), 'and no more when it ends: 25 hours');
        self::assertSame(self::ms('2026-10-25T22:00:00Z'), $day->begins(self::ms('2026-10-25T22:00:00Z')));
        self::assertSame(self::ms('2026-11-29T00:00:00Z'), AccountDay::utc()->begins(self::ms('2026-11-29T10:00:00Z')));
    }

    /** A new roll time five minutes after the old one would give a second day, with a second loss limit, after five minutes. */
    public function testADayThatIsSetAnewIsNoShortOne(): void
    {
        $since = self::ms('2026-11-30T00:00:00Z');
        $day = AccountDay::fromNode(Node::of(['zone' => 'UTC', 'rolls' => '00:05']), $since);
        self::assertSame([$since, self::ms('2026-12-01T00:05:00Z')], [$day->begins($since + 600_000), $day->ends($since + 600_000)]);
        self::assertSame(self::ms('2026-12-01T00:05:00Z'), $day->begins(self::ms('2026-12-01T00:06:00Z')));
        $evening = AccountDay::fromNode(Node::of(['zone' => 'UTC', 'rolls' => '18:00']), $since);
        self::assertSame([$since, self::ms('2026-11-30T18:00:00Z')], [$evening->begins($since), $evening->ends($since)]);
    }

    /** The day that was asked for last is kept: whatever is asked after whatever, it answers as if nobody had asked before. */
    public function testADayIsTheSameInWhateverOrderItIsAskedFor(): void
    {
        $dice = new Randomizer(new Mt19937(5));
        foreach ([null, '2026-10-24T17:30:00Z', '2026-10-25T03:00:00Z'] as $since) {
            $fresh = static fn(): AccountDay => AccountDay::fromNode(
                Node::of(['zone' => 'Europe/Lisbon', 'rolls' => '18:30']), $since === null ? null : self::ms($since),
            );
            $asked = $fresh();
            for ($i = 0; $i < 400; $i++) {
                $at = self::ms('2026-10-23T00:00:00Z') + $dice->getInt(0, 96 * 12) * 300_000 - $dice->getInt(0, 1);
                self::assertSame([$fresh()->begins($at), $fresh()->ends($at)], [$asked->begins($at), $asked->ends($at)], "$at");
            }
        }
    }
}
