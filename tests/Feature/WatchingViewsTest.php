<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Demo\KestrelBay;
use App\Engine\Operation\Watching;
use App\Engine\View\DayView;
use App\Engine\View\DepthView;
use Lotrik\Contract\Contract;
use Lotrik\Desk\Quote;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Venue\TradePrint;
use Lotrik\Watching\Bars\BarKind;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\TradingDay;
use PHPUnit\Framework\TestCase;

/** What goes out of a day, of the depth and of the past, from figures that are set by hand. */
final class WatchingViewsTest extends TestCase
{
    private static function contract(string $root = 'DUL'): Contract
    {
        foreach (KestrelBay::contracts(new \DateTimeImmutable('2026-11-02')) as [$contract]) {
            if (str_starts_with($contract->code, $root)) {
                return $contract;
            }
        }

        throw new \LogicException("no contract of $root");
    }

    public function testADayBeforeItsFirstTradeHasNoPrices(): void
    {
        $view = DayView::of(self::contract(), new TradingDay(), null);
        self::assertSame(
            [null, null, null, null, null, null, 0],
            [$view['began'], $view['settlement'], $view['open'], $view['average'], $view['limits'], $view['reference'], $view['lots']],
        );
        self::assertSame([], $view['traded']);
    }

    public function testADayTellsItsLimitsItsAverageToATenthOfATickAndOnlyWhatHasChanged(): void
    {
        $day = new TradingDay();
        $day->begin(1);
        $day->add(825, 1, Side::Buy);
        $day->begin(1_793_611_800_000);
        foreach ([[830, 2, Side::Buy], [831, 1, Side::Sell], [830, 4, Side::Sell]] as $trade) {
            $day->add(...$trade);
        }
        $view = DayView::of(self::contract(), $day, null);
        self::assertSame(['2026-11-02T09:30:00.000Z', 825, [425, 1225]], [$view['began'], $view['settlement'], $view['limits']]);
        // 830.142857 ticks of 0.50: 830.1 ticks are 415.05.
        self::assertSame(['level' => 830, 'price' => '415.05', 'words' => '415.05'], $view['average']);
        self::assertSame([[830, 2, 4], [831, 0, 1]], $view['traded']);
        self::assertSame([[831, 0, 1], [900, 0, 0]], DayView::of(self::contract(), $day, [831, 900])['traded']);
        self::assertFalse(DayView::of(self::contract(), $day, [831])['full']);
    }

    public function testTheDepthTellsWhereMuchHasChangedWithinASecond(): void
    {
        $depth = new DepthHistory();
        $bids = [100 => 10, 99 => 10, 98 => 10];
        $asks = [101 => 10, 102 => 10];
        for ($n = 1; $n <= 8; $n++) {
            // The middle price holds ten lots: a change of nine is none, ten is one.
            $depth->sample(250 * $n, $n < 6 ? $bids + $asks : [100 => 19, 99 => 20, 98 => 10, 101 => 10]);
        }
        $view = DepthView::of('DULZ6', $depth, $bids, $asks, 1_750);
        self::assertEqualsCanonicalizing([[99, 10], [102, -10]], $view['changed']);
        self::assertSame([[3, 30, 20, 20], [5, 30, 20, 20], [10, 30, 20, 20], [20, 30, 20, 20]], $view['sums']);
        self::assertSame([250, 2000], array_column($view['columns'], 'step'), 'the two that ended at two seconds');
        self::assertSame(
            ['at' => 2000, 'from' => 98, 'lots' => [10, 20, 19, 10], 'trades' => []],
            array_diff_key($view['columns'][0], ['step' => 1]),
        );
        self::assertSame([10, 20, 19, 10, 10], $view['columns'][1]['lots'], 'the longer one has the most that rested');
        self::assertSame(50, $view['unusual']);
    }

    public function testTheEngineLooksBackAsFarAsItRemembers(): void
    {
        $quote = new Quote();
        $watching = new Watching(self::contract(), $quote, 5_000);
        self::assertSame(
            [[], null],
            [$watching->depthHistory(250, 0, PHP_INT_MAX)['columns'], $watching->bars(BarKind::Time, 60, 10)['average_true_range']],
        );
        for ($i = 1; $i <= 20; $i++) {
            $quote->traded(60_000 * $i, new TradePrint($i, 820 + 2 * ($i % 2), $i, $i % 2 === 0 ? Side::Buy : Side::Sell));
        }
        $tape = $watching->tape(3)['items'];
        self::assertSame([20, 19, 18], array_column($tape, 'number'));
        self::assertSame(['buy', 'sell', 'buy'], array_column($tape, 'aggressor'));
        // Each minute closes two ticks from the one before: a true range of two ticks, which is 1.00.
        self::assertSame(
            ['1.00', '2.00'],
            array_values(array_intersect_key(
                $watching->bars(BarKind::Time, 60, 10),
                ['average_true_range' => 0, 'average_true_range_ticks' => 0],
            )),
        );
        self::assertCount(10, $watching->bars(BarKind::Time, 60, 10)['bars']);
        self::assertSame([300_000 * 3, 300_000 * 4], array_column(array_slice($watching->bars(BarKind::Time, 300, 10)['bars'], -2), 0));
        $this->expectException(Refusal::class);
        $watching->depthHistory(300, 0, PHP_INT_MAX);
    }
}
