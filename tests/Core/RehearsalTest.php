<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Desk\Event\Exit\StopMoved;
use Lotrik\Desk\Event\Fill\OrderFilled;
use Lotrik\Document\InvalidLine;
use Lotrik\Document\Moment;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Role;
use Lotrik\Order\Side;
use Lotrik\Rehearsal\DrawnLine;
use Lotrik\Rehearsal\EntryOrder;
use Lotrik\Rehearsal\Rehearsal;
use Lotrik\Rehearsal\Tape;
use Lotrik\Rehearsal\TapePrint;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\TestSystem;

final class RehearsalTest extends TestCase
{
    /**
     * @param list<int|array{int, int}> $ticks  prices from 825, or price and size
     * @param array<string, mixed>      $plan
     *
     * @return array<string, mixed>
     */
    private static function over(array $ticks, array $plan, EntryOrder $order, bool $useSize = false, bool $through = false): array
    {
        $lines = ["time,contract,price,size,aggressor\r\n"];
        foreach ($ticks as $i => $tick) {
            [$tick, $size] = is_array($tick) ? $tick : [$tick, 1];
            $lines[] = Moment::iso(1_793_611_800_000_000 + $i * 1_000_000).',DULZ6,'.TestSystem::contract()->price(825 + $tick)
                .",$size,\r\n";
        }

        return (new Rehearsal(
            TestSystem::contract(),
            ExitPlan::fromArray($plan),
            $order,
            $useSize,
            $through,
        ))->over(new Tape($lines, TestSystem::contract()));
    }

    private static function buy(int $lots, OrderKind $kind = OrderKind::Market, ?int $ticks = null, bool $atPrice = false): EntryOrder
    {
        return new EntryOrder(Side::Buy, $lots, $kind, $ticks === null ? null : 825 + $ticks, null, $atPrice);
    }

    /**
     * @param array<string, mixed> $result
     *
     * @return list<string>
     */
    private static function told(array $result): array
    {
        return array_map(
            static fn(array $e): string => trim(substr($e['time'], 17, 2).' '.$e['event'].' '.($e['portion'] ?? '').' '.($e['quantity'] ?? '').'@'.($e['price'] ?? '').' '.($e['because'] ?? $e['order'] ?? '')),
            $result['events'],
        );
    }

    public function testTheExampleOfTheFormat(): void
    {
        $result = self::over([0, -1, -2, 1, 5, 7, 9, 11, 6, 5, 4], TestSystem::plan(), self::buy(2));
        self::assertSame([
            '00 stop-placed 1 1@409.00', '00 target-placed 1 1@417.00', '00 stop-placed 2 1@409.00',
            '04 stop-moved 1 1@412.50 lock', '04 stop-moved 2 1@412.50 lock', '05 stop-moved 1 1@413.50 lock',
            '05 stop-moved 2 1@413.50 lock',
            '06 exit-filled 1 1@417.00 target', '07 stop-moved 2 1@415.00 trail', '09 exit-filled 2 1@415.00 stop',
        ], self::told($result));
        self::assertSame(
            [
                'ticks' => 14, 'money' => '35.00', 'fees' => '2.48', 'net' => '32.52', 'currency' => 'EUR', 'best_ticks' => 11,
                'worst_ticks' => -2,
            ],
            $result['result'],
        );
        self::assertSame(0, $result['open_quantity']);
    }

    public function testAStopFillsAtThePriceOfThePrintThatTriggersIt(): void
    {
        $result = self::over([0, -10], TestSystem::plan(), self::buy(1));
        $last = $result['events'][2];
        self::assertSame(['exit-filled', '407.50', 3], [$last['event'], $last['price'], $last['slippage_ticks']]);
        self::assertSame(-10, $result['result']['ticks']);
    }

    public function testThePrintThatFillsTheEntryTouchesNoneOfItsExits(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":7},"portions":[{"rest":true,"target":{"ticks":3}}],"ratchets":[{"at":0,"lock":-2}]');
        $result = self::over([5], $plan, self::buy(1, OrderKind::Stop, 1));
        self::assertSame(['415.00', 1], [$result['entry']['average'], $result['open_quantity']]);
        $atPrice = self::over([4], $plan, self::buy(1, ticks: 0, atPrice: true));
        self::assertSame(0, $atPrice['open_quantity'], 'an entry at a price is filled before its first print is looked at');
    }

    public function testAnEntryAtAPriceAfterTheLastPrintIsFilledAllTheSame(): void
    {
        $order = new EntryOrder(Side::Buy, 1, OrderKind::Market, 825, 1_793_611_900_000_000, true);
        $result = self::over([0, 1], TestSystem::plan(), $order);
        self::assertSame(
            ['412.50', '2026-11-02T09:31:40.000Z', 1],
            [$result['entry']['average'], $result['entry']['time'], $result['open_quantity']],
        );
    }

    public function testALimitEntryFillsAtItsOwnPriceAndThroughAsksForMore(): void
    {
        $plan = TestSystem::plan();
        self::assertSame('412.00', self::over([0, -1, 0], $plan, self::buy(1, OrderKind::Limit, -1))['entry']['average']);
        self::assertNull(self::over([0, -1, 0], $plan, self::buy(1, OrderKind::Limit, -1), through: true)['entry']);
        self::assertSame('412.00', self::over([0, -4, 0], $plan, self::buy(1, OrderKind::Limit, -1), through: true)['entry']['average']);
        self::assertNull(self::over([0, 1], $plan, self::buy(1, OrderKind::Limit, -1))['entry']);
    }

    public function testSizesCountOnlyWhereTheyAreAskedFor(): void
    {
        $result = self::over([[0, 1], [1, 1], [1, 5]], TestSystem::plan('"stop":{"ticks":7}'), self::buy(3), useSize: true);
        self::assertSame('412.83333333', $result['entry']['average']);
        self::assertSame(3, $result['entry']['quantity']);
        self::assertSame('409.50', $result['events'][count($result['events']) - 1]['price'], 'the anchor is rounded to the profit side');
    }

    public function testAShortIsTheMirror(): void
    {
        $result = self::over([0, -5, 0], TestSystem::plan(), new EntryOrder(Side::Sell, 1, OrderKind::Market, null, null, false));
        self::assertSame(
            ['00 stop-placed 1 1@416.00', '00 target-placed 1 1@408.00', '01 stop-moved 1 1@412.50 lock', '02 exit-filled 1 1@412.50 stop'],
            self::told($result),
        );
    }

    /** The market was beyond the stop when the limit filled: those lots close at the market, in that print. */
    public function testALimitThatFillsInAGapBeyondItsOwnStopClosesAtTheMarket(): void
    {
        $result = self::over([1, -12], TestSystem::plan('"stop":{"ticks":10}'), self::buy(2, OrderKind::Limit, 0));
        self::assertSame(['01 stop-placed 1 2@407.50', '01 exit-filled 1 2@406.50 stop'], self::told($result));
        self::assertSame(
            [0, -24, 2, -12],
            [
                $result['open_quantity'], $result['result']['ticks'], $result['events'][1]['slippage_ticks'],
                $result['result']['worst_ticks'],
            ],
        );
        $limited = self::over(
            [1, -12, -9, -5],
            TestSystem::plan('"stop":{"ticks":10,"kind":"stop-limit","limit_ticks":1}'),
            self::buy(1, OrderKind::Limit, 0),
        );
        self::assertSame(
            ['01 stop-placed 1 1@407.50', '02 exit-filled 1 1@407.00 stop'],
            self::told($limited),
            'a stop-limit waits at its limit',
        );
    }

    public function testAStopIsSetOffByThePriceOfAPrintWhateverItsLots(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":5},"portions":[{"lots":1,"target":null},{"rest":true,"target":null}]');
        $result = self::over([[0, 3], [-5, 1], [-2, 1], [0, 1]], $plan, self::buy(3), useSize: true);
        self::assertSame(
            ['01 exit-filled 1 1@410.00 stop', '02 exit-filled 2 1@411.50 stop', '03 exit-filled 2 1@412.50 stop'],
            array_slice(self::told($result), 2),
            'the second portion was set off by a print whose lots the first had taken',
        );
    }

    public function testWhatIsLeftOfATriggeredStopEntryFillsWithoutItsTrigger(): void
    {
        $result = self::over(
            [[2, 3], [-1, 20], [0, 20]],
            TestSystem::plan('"stop":{"ticks":30}'),
            self::buy(25, OrderKind::Stop, 1),
            useSize: true,
        );
        // 3 at 827, 20 at 824 and 2 at 825 ticks.
        self::assertSame([25, '412.22'], [$result['entry']['quantity'], $result['entry']['average']]);
    }

    public function testWhereOnePrintCouldFillAStopsRestAndItsTargetTheStopComesFirst(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":5},"portions":[{"rest":true,"target":{"ticks":4}}]');
        $result = self::over([[0, 3], [-5, 1], [4, 9]], $plan, self::buy(3), useSize: true);
        self::assertSame(['01 exit-filled 1 1@410.00 stop', '02 exit-filled 1 2@414.50 stop'], array_slice(self::told($result), 2));
    }

    /** Lots that join a portion share its stop, which never loosens. */
    public function testAPlanForThePositionGathersTheLotsThatJoin(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":5},"portions":[{"rest":true,"target":null}],"covers":"position"');
        $result = self::over([[0, 1], [-3, 1], [-3, 9]], $plan, self::buy(2), useSize: true);
        self::assertSame(['00 stop-placed 1 1@410.00', '01 stop-placed 1 2@410.00'], self::told($result));
    }

    /** After the first portion is out, the next lot to come in fills it again: the portions are those of the position. */
    public function testAPlanForThePositionFillsItsPortionsAgain(): void
    {
        $plan = static fn(string $covers): array => TestSystem::plan('"stop":{"ticks":9},"portions":[{"lots":1,"target":{"ticks":2}},{"rest":true,"target":{"ticks":30}}],"after_target":"keep-entry","covers":"'.$covers.'"');
        $portion = static fn(string $covers): int => array_values(array_filter(
            self::over([[0, 1], [3, 1], [0, 1]], $plan($covers), self::buy(2), useSize: true)['events'],
            static fn(array $e): bool => $e['time'] === '2026-11-02T09:30:02.000Z',
        ))[0]['portion'];
        self::assertSame([1, 2], [$portion('position'), $portion('entry')]);
    }

    /** Each closed lot counts against the price of its own fill, the oldest first. */
    public function testTheResultIsCountedLotByLot(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":20},"portions":[{"lots":1,"target":{"ticks":2}},{"rest":true,"target":null}],"after_target":"keep-entry"');
        $result = self::over([[0, 1], [1, 1], [5, 1]], $plan, self::buy(2), useSize: true);
        // In at 0 and +1, the anchor is +1; the first lot is out at +3.
        self::assertSame([1, 3, '7.50'], [$result['open_quantity'], $result['result']['ticks'], $result['result']['money']]);
    }

    public function testATriggeredStopLimitThatRestsFillsAtItsLimit(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":5,"kind":"stop-limit","limit_ticks":1}');
        $result = self::over([0, -9, -1], $plan, self::buy(1));
        self::assertSame(
            ['409.50', 1],
            [$result['events'][1]['price'], $result['events'][1]['slippage_ticks']],
            'and not at the better print beyond it',
        );
        self::assertSame(
            1,
            self::over([0, -9, -6], $plan, self::buy(1), through: true)['open_quantity'],
            'a limit that must be traded through',
        );
        self::assertSame(0, self::over([0, -9, -5], $plan, self::buy(1), through: true)['open_quantity']);
    }

    /** @param list<array{int, int, int}> $prints price, bid and ask, in ticks from 825 */
    private static function quoted(array $prints, array $plan, EntryOrder $order): array
    {
        $lines = ['time,contract,price,size,aggressor,bid,bid_size,ask,ask_size'];
        $price = static fn(int $tick): string => TestSystem::contract()->price(825 + $tick);
        foreach ($prints as $i => [$tick, $bid, $ask]) {
            $lines[] = Moment::iso(1_793_611_800_000_000 + $i * 1_000_000).",DULZ6,{$price($tick)},1,,{$price($bid)},3,{$price($ask)},4";
        }

        return (new Rehearsal(TestSystem::contract(), ExitPlan::fromArray($plan), $order))->over(new Tape($lines, TestSystem::contract()));
    }

    public function testPassedIsJudgedOnTheLastTradeClampedIntoTheQuote(): void
    {
        $at = 1_793_611_801_000_000;
        $stop = static fn(int $tick): EntryOrder => new EntryOrder(Side::Buy, 1, OrderKind::Stop, 825 + $tick, $at, false);
        $refused = self::quoted([[0, 3, 4], [5, 4, 5]], TestSystem::plan(), $stop(3));
        self::assertSame([null, 'entry-refused'], [$refused['entry'], $refused['events'][0]['event']]);
        self::assertStringContainsString('already passed', $refused['events'][0]['reason']);
        self::assertNotNull(self::quoted([[0, 0, 1], [5, 4, 5]], TestSystem::plan(), $stop(3))['entry']);
        self::assertNotNull(
            self::quoted([[5, 4, 5]], TestSystem::plan(), new EntryOrder(Side::Buy, 1, OrderKind::Stop, 828, null, false))['entry'],
            'before the first trade nothing is passed',
        );
        // Trailed to +1 at a best of +4, while the best ask has fallen to 0: that stop is passed, and closes.
        $trailed = self::quoted(
            [[0, 0, 1], [4, -1, 0]],
            TestSystem::plan('"stop":{"ticks":5},"ratchets":[{"at":4,"trail":3}]'),
            self::buy(1),
        );
        self::assertSame(0, $trailed['open_quantity']);
    }

    public function testARatchetAtNoughtActsAtBirthAlsoWhereTheEntryIsFilledAtAPrice(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":7},"ratchets":[{"at":0,"lock":-2}]');
        self::assertSame(
            ['00 stop-placed 1 1@409.00', '00 stop-moved 1 1@411.50 lock', '00 exit-filled 1 1@411.00 stop'],
            self::told(self::over([-3], $plan, self::buy(1, ticks: 0, atPrice: true))),
        );
    }

    public function testAnEntryAtAPriceWhereTheMarketIsBeyondItsStopClosesAtTheNextPrint(): void
    {
        $order = new EntryOrder(Side::Buy, 1, OrderKind::Market, 825, 1_793_611_801_000_000, true);
        $result = self::over([-9, 3], TestSystem::plan('"stop":{"ticks":7}'), $order);
        self::assertSame(['01 stop-placed 1 1@409.00', '01 exit-filled 1 1@414.00 stop'], self::told($result));
    }

    /** @return iterable<array{list<string>, string}> */
    public static function badTapes(): iterable
    {
        $head = 'time,contract,price,size,aggressor';
        yield [[], 'line 1: found nothing'];
        yield [['time,contract,price'], 'line 1: found the header'];
        yield [[$head.',colour'], 'line 1: found the header'];
        yield [[$head, 'noon,DULZ6,412.50,1,buy'], 'line 2: found time "noon"'];
        yield [[$head, '2026-02-30T09:00:00Z,DULZ6,412.50,1,buy'], 'line 2: found time'];
        yield [[$head, '2026-11-02T09:30:00.000Z,DULZ6,412.30,1,buy'], '412.00 and 412.50'];
        yield [[$head, '2026-11-02T09:30:00.000Z,DULZ6,412.50,0,buy'], 'size "0"'];
        yield [[$head, '2026-11-02T09:30:00.000Z,DULZ6,412.50,1,both'], 'aggressor "both"'];
        yield [[$head, '2026-11-02T09:30:00.000Z,DULZ6,412.50,1'], '4 columns'];
        yield [[$head, '2026-11-02T09:30:01.000Z,DULZ6,412.50,1,', '2026-11-02T09:30:00.000Z,DULZ6,412.50,1,'], 'line 3: found time'];
        $good = '2026-11-02T09:30:00.000Z,DULZ6,412.50,1,buy';
        yield 'off the grid' => [
            [$head, '2026-11-02T09:30:00.000Z,DULZ6,412.30,1,buy'],
            'line 2: found price "412.30", expected a price on the tick grid of 0.50, the nearest being 412.00 and 412.50',
        ];
        yield 'an upper bound' => [[$head, '2026-11-02T09:30:00.000Z,DULZ6,412.50,9999999999,buy'], 'from 1 to 999999999'];
        yield 'another contract, a bad price' => [
            [$head, $good, '2026-11-02T09:30:00.000Z,FRXZ6,cheap,1,buy'], 'line 3: found price "cheap"',
        ];
        yield 'another contract, a bad size' => [
            [$head, $good, '2026-11-02T09:30:00.000Z,FRXZ6,1.00,none,buy'], 'line 3: found size "none"',
        ];
        yield 'another contract, a bad aggressor' => [
            [$head, $good, '2026-11-02T09:30:00.000Z,FRXZ6,1.00,1,him'], 'line 3: found aggressor "him"',
        ];
        yield 'another contract, no name' => [[$head, $good, '2026-11-02T09:30:00.000Z,,1.00,1,'], 'line 3: found no contract'];
        yield 'no print of it' => [
            [$head, '2026-11-02T09:30:00.000Z,FRXZ6,412.50,1,buy'], 'tape: found no print of DULZ6, expected at least one',
        ];
        yield 'nothing but a header' => [[$head], 'found no print of DULZ6'];
        yield 'no UTF-8' => [[$head, "2026-11-02T09:30:00.000Z,DULZ6\xff,412.50,1,buy"], 'line 2: found bytes that are no UTF-8'];
        yield 'a long line' => [[$head, $good.str_repeat(' ', 70_000)], 'line 2: found more than 64 KiB'];
        yield 'blank lines' => [[$head, ...array_fill(0, 1_001, ''), $good], 'line 1002: found more than 1000 blank lines'];
        yield 'a bad time behind a record that was seen before' => [
            [$head, $good, 'x026-11-02T09:30:00.000Z'.substr($good, 24)], 'line 3: found time "x026-',
        ];
        yield 'back in time, seen before' => [
            [$head, $good, '2026-11-02T09:29:59.999Z'.substr($good, 24)],
            'line 3: found time 2026-11-02T09:29:59.999Z, before the line above',
        ];
        yield 'blank lines between records that were seen before' => [
            [$head, $good, $good, $good, ...array_fill(0, 1_001, ''), $good], 'line 1005: found more than 1000 blank lines',
        ];
        yield 'a quote that is never closed' => [
            [$head, '2026-11-02T09:30:00.000Z,"DULZ6,412.50,1,buy', $good], 'line 2: found a quote that nothing closes',
        ];
        yield 'a bad bid size' => [[$head.',bid,bid_size,ask,ask_size', $good.',412.50,much,413.00,1'], 'line 2: found bid_size "much"'];
    }

    /** @param list<string> $lines */
    #[DataProvider('badTapes')]
    public function testABadTapeNamesItsLine(array $lines, string $says): void
    {
        $this->expectException(InvalidLine::class);
        $this->expectExceptionMessage($says);
        (new Rehearsal(
            TestSystem::contract(),
            ExitPlan::fromArray(TestSystem::plan()),
            self::buy(1),
        ))->over(new Tape($lines, TestSystem::contract()));
    }

    public function testATapeMayQuoteItsCellsNameTheContractByAnAliasAndBeginWithAByteOrderMark(): void
    {
        $contract = \Lotrik\Contract\Contract::fromArray(['aliases' => ['DULSE-DEC26', "two\nlines"]] + TestSystem::contract()->toArray());
        $lines = [
            "\xEF\xBB\xBFtime,contract,price,size,aggressor", '2026-11-02T09:30:00.000Z,"DULSE-DEC26",412.50,1,buy', '',
            '2026-11-02T09:30:00.000Z,"two', 'lines",413.00,1,', '2026-11-02T09:30:00.000Z,FRXZ6,1.005,1,',
        ];
        self::assertSame(
            [825, 826],
            array_map(static fn(TapePrint $p): int => $p->tick, iterator_to_array((new Tape($lines, $contract))->prints(), false)),
        );
    }

    /** What has been checked once is not cut up again: it must come out the same, with all that stands between. */
    public function testRecordsThatComeAgainAreReadLikeTheFirst(): void
    {
        $contract = \Lotrik\Contract\Contract::fromArray(['aliases' => ["two\n,412.50,1,buy"]] + TestSystem::contract()->toArray());
        $lines = ['time,contract,price,size,aggressor'];
        for ($i = 0; $i < 1_200; $i++) {
            $lines[] = sprintf(
                '2026-11-02T09:30:0%d.%03dZ,DULZ6,412.50,%d,%s',
                intdiv($i, 1000),
                $i % 1000,
                1 + $i % 2,
                ['buy', 'sell', ''][$i % 3],
            )."\r\n";
        }
        array_push(
            $lines, '', '2026-11-02T09:31:00Z,DULZ6,412.50,1,buy', '2026-11-02T09:31:00.000Z,"two', ',412.50,1,buy",413.00,3,buy',
            '2026-11-02T09:32:00.000+00:00,DULZ6,412.50,1,buy', '2026-11-02T09:33:00.000Z,DULZ6,412.50,1,buy',
        );
        $prints = iterator_to_array((new Tape($lines, $contract))->prints(), false);
        self::assertCount(1_204, $prints);
        $start = (int) strtotime('2026-11-02 09:30 UTC') * 1_000_000;
        foreach (array_slice($prints, 0, 1_200) as $i => $print) {
            self::assertEquals(new TapePrint($start + $i * 1000, 825, 1 + $i % 2, [Side::Buy, Side::Sell, null][$i % 3]), $print);
        }
        self::assertSame(
            [[60, 825, 1], [60, 826, 3], [120, 825, 1], [180, 825, 1]],
            array_map(
                static fn(TapePrint $p): array => [intdiv($p->at - $start, 1_000_000), $p->tick, $p->lots],
                array_slice($prints, 1_200),
            ),
        );
    }

    public function testOnADrawnLineTheExitQuoteOfALongIsATickBelowWhatIsBought(): void
    {
        $moved = static fn(string $watch, int $top): int => count(array_filter(
            (new Rehearsal(
                TestSystem::contract(),
                ExitPlan::fromArray(TestSystem::plan("\"stop\":{\"ticks\":5},\"ratchets\":[{\"at\":4,\"lock\":0}],\"watch\":\"$watch\"")),
                self::buy(1, ticks: 0, atPrice: true),
            ))->over(new DrawnLine([825, 825 + $top], 0))['events'],
            static fn(array $e): bool => $e['event'] === 'stop-moved',
        ));

        [$bought, $sold] = [TapePrint::atTheTouch(0, 100, 1, Side::Buy), TapePrint::atTheTouch(0, 100, 1, Side::Sell)];
        self::assertSame([99, 100, 100, 101], [$bought->bid, $bought->ask, $sold->bid, $sold->ask]);
        self::assertSame([1, 0, 1], [$moved('last', 4), $moved('exit-quote', 4), $moved('exit-quote', 5)]);
    }

    public function testTheExitQuoteNeedsQuotesOnTheTape(): void
    {
        $this->expectExceptionMessage('exit quote');
        self::over([0, 1], TestSystem::plan('"stop":{"ticks":7},"watch":"exit-quote"'), self::buy(1));
    }

    /**
     * The desk at its venue and the rehearsal over the same prints move the same stops to the same levels, and fill
     * the same targets, until a stop closes the rest.
     */
    public function testRehearsalEqualsTheDeskOnTheSamePrints(): void
    {
        $moves = 0;
        for ($seed = 1; $seed <= 60; $seed++) {
            $system = new TestSystem(seed: $seed);
            $dice = new Randomizer(new Mt19937($seed));
            $plan = TestSystem::plan($seed % 3 === 0 ? '"stop":{"ticks":12},"ratchets":[{"at":4,"lock":"fees"},{"at":6,"trail":5,"by":1}]' : '');
            $side = $seed % 2 === 0 ? 'buy' : 'sell';
            $system->place($side, 1 + $seed % 3, plan: $plan);
            $prints = [];
            for ($i = 0; $i < 40 && $system->lots() !== 0; $i++) {
                $before = $system->last();
                $to = $before + $dice->getInt(-4, 4);
                $system->push($to - $before);
                for ($tick = $before; $tick !== $to;) {
                    $prints[] = $tick += $to <=> $before;
                }
            }
            $average = $system->holding()->position->average;
            $entry = null;
            $live = [];
            foreach ($system->events as $recorded) {
                $event = $recorded->event;
                if ($event instanceof StopMoved) {
                    $live[] = "$event->portion:$event->from>$event->to $event->because";
                    $moves++;
                } elseif ($event instanceof OrderFilled && $system->order($event->order)->role === Role::Entry) {
                    self::assertTrue($entry === null || $entry === $event->price, 'entries of this test fill at one price');
                    $entry = $event->price;
                } elseif ($event instanceof OrderFilled && $system->order($event->order)->role === Role::Target) {
                    $live[] = 'target '.$system->order($event->order)->portion.':'.$event->price;
                }
            }
            $order = new EntryOrder($side === 'buy' ? Side::Buy : Side::Sell, 1 + $seed % 3, OrderKind::Market, (int) $entry, null, true);
            $result = self::over(array_map(static fn(int $t): int => $t - 825, $prints), $plan, $order);
            $rehearsed = [];
            $ticks = static fn(string $price): int => TestSystem::contract()->ticks($price);
            foreach ($result['events'] as $told) {
                if ($told['event'] === 'stop-moved') {
                    $rehearsed[] = "{$told['portion']}:{$ticks($told['from'])}>{$ticks($told['price'])} {$told['because']}";
                } elseif ($told['event'] === 'exit-filled' && $told['order'] === 'target') {
                    $rehearsed[] = "target {$told['portion']}:{$ticks($told['price'])}";
                }
            }
            sort($live);
            sort($rehearsed);
            self::assertSame($live, $rehearsed, "seed $seed");
            self::assertSame(abs($system->lots()), $result['open_quantity'], "seed $seed");
            self::assertTrue($system->lots() === 0 || $average->isEqualTo((int) $entry));
        }
        self::assertGreaterThan(60, $moves);
    }

    public function testWithinAPrintExitsFillBeforeRatchetsMove(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":5},"portions":[{"lots":1,"target":{"ticks":4}},{"rest":true,"target":null}],"ratchets":[{"at":4,"lock":1}]');
        self::assertSame([
            '00 stop-placed 1 1@410.00', '00 target-placed 1 1@414.50', '00 stop-placed 2 1@410.00',
            '01 exit-filled 1 1@414.50 target', '01 stop-moved 2 1@413.00 lock',
        ], self::told(self::over([0, 4], $plan, self::buy(2))), 'the portion that is out has no stop to move');
    }

    /** What comes after the last lot is out counts for nothing; what comes while it is open counts, though it changes nothing. */
    public function testTheBestAndTheWorstAreThoseOfTheTimeInTheTrade(): void
    {
        $plan = TestSystem::plan('"stop":{"ticks":10},"portions":[{"rest":true,"target":{"ticks":6}}]');
        $result = self::over([0, 3, -4, 2, 5, -9, 0, 6, 30, -30], $plan, self::buy(1))['result'];
        self::assertSame([6, -9, 6], [$result['best_ticks'], $result['worst_ticks'], $result['ticks']]);
        $short = self::over(
            [0, -3, 4, -2, 9, 0, -6, 30, -30],
            $plan,
            new EntryOrder(Side::Sell, 1, OrderKind::Market, null, null, false),
        )['result'];
        self::assertSame([6, -9, 6], [$short['best_ticks'], $short['worst_ticks'], $short['ticks']]);
    }

    /** Average true ranges are those of the bars that had closed when the entry was sent; before any there are none. */
    public function testADistanceInAverageTrueRangesNeedsATapeThatBeginsBeforeTheEntry(): void
    {
        $plan = ExitPlan::fromArray(TestSystem::plan('"stop":{"atr":"2","bar":"1m","length":2}'));
        $lines = ["time,contract,price,size,aggressor\n"];
        for ($second = 0; $second < 240; $second += 20) {
            $lines[] = Moment::iso(1_793_611_800_000_000 + $second * 1_000_000).',DULZ6,'
                .TestSystem::contract()->price(825 + ($second % 60 === 0 ? 4 : 0)).",1,\n";
        }
        $over = static fn(int $at): array => (new Rehearsal(
            TestSystem::contract(),
            $plan,
            new EntryOrder(Side::Buy, 1, OrderKind::Market, null, $at, false),
        ))->over(new Tape($lines, TestSystem::contract()));
        $result = $over(1_793_611_800_000_000 + 200_000_000);
        self::assertSame('408.50', $result['events'][0]['price'], 'two true ranges of 4 ticks below 412.50');
        $this->expectExceptionMessage('needs 3 closed bars, and 2 have closed so far');
        $over(1_793_611_800_000_000 + 140_000_000);
    }
}
