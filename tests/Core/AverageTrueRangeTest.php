<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\ExitPlan\ExitPlan;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Watching\Bars\AverageTrueRange;
use Lotrik\Watching\Bars\Bar;
use Lotrik\Watching\Bars\BarSize;
use Lotrik\Watching\Bars\MinuteBars;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\TestSystem;

/** Bars by time, the average true range over them, and distances that hang on it. */
final class AverageTrueRangeTest extends TestCase
{
    private const NINE = 1_793_610_000_000;

    public function testBarsOfAnySizeAreWhatANaiveRecountGives(): void
    {
        $dice = new Randomizer(new Mt19937(7));
        $bars = new MinuteBars();
        $prints = [];
        for ($at = self::NINE, $tick = 800, $i = 0; $i < 4000; $i++) {
            $at += $dice->getInt(0, 9000);
            $tick += $dice->getInt(-2, 2);
            $bars->add($at, $tick, 1 + $i % 3);
            $prints[] = [$at, $tick, 1 + $i % 3];
        }
        foreach ([BarSize::OneMinute, BarSize::FiveMinutes, BarSize::OneHour] as $size) {
            $naive = [];
            foreach ($prints as [$when, $price, $lots]) {
                $naive[intdiv($when, $size->ms()) * $size->ms()][] = [$price, $lots];
            }
            $naive = array_filter($naive, static fn(int $start): bool => $start + $size->ms() <= $at, ARRAY_FILTER_USE_KEY);
            $expected = array_map(
                static fn(int $start, array $of): array => [
                    $start, $of[0][0], max(array_column($of, 0)), min(array_column($of, 0)), $of[count($of) - 1][0],
                    array_sum(array_column($of, 1)),
                ],
                array_keys($naive),
                $naive,
            );
            self::assertSame($expected, array_map(static fn(Bar $b): array => $b->pack(), $bars->closed($size, $at)), $size->value);
        }
    }

    /** By hand: true ranges 4, 6, 5 make 5 over three; then a range of 11 moves it by a third of the difference, to 7. */
    public function testTheAverageStartsAsAMeanAndMovesByANthOfTheDifference(): void
    {
        $bar = static fn(int $high, int $low, int $close): Bar => new Bar(0, $low, $high, $low, $close, 1);
        $bars = [$bar(10, 8, 9), $bar(12, 8, 12), $bar(14, 10, 8), $bar(13, 9, 11), $bar(22, 15, 20)];
        self::assertNull(AverageTrueRange::of(array_slice($bars, 0, 3), 3), 'three true ranges take four bars');
        self::assertSame(5_000_000, AverageTrueRange::of([$bars[0], $bars[1], $bar(14, 8, 8), $bars[3]], 3));
        self::assertSame(7_000_000, AverageTrueRange::of([$bars[0], $bars[1], $bar(14, 8, 8), $bars[3], $bars[4]], 3));
    }

    public function testADistanceInAverageTrueRangesIsFrozenAndRounded(): void
    {
        $plan = ExitPlan::fromArray(TestSystem::plan('"stop":{"atr":"1.5","bar":"1m","length":3},"portions":[{"rest":true,"target":{"atr":"2","bar":"1m","length":3}}]'));
        $bars = new MinuteBars();
        foreach ([[800, 804], [800, 806], [801, 803], [800, 805], [805, 805]] as $i => [$low, $high]) {
            $bars->add(self::NINE + 60_000 * $i, $low, 1);
            $bars->add(self::NINE + 60_000 * $i + 1, $high, 1);
        }
        $at = self::NINE + 60_000 * 4 + 5;
        // True ranges 6 (806 over 800), 5 (the close 806 above 801) and 5: 5.333333 on average.
        $ranges = TrueRanges::for($plan, $bars, $at);
        self::assertSame(['1m/3' => 5_333_333], $ranges->toArray());
        $portion = $plan->resolve(new Basis(TestSystem::contract(), 825, 1, null, $ranges))->portions[0];
        self::assertSame(
            [7, 11],
            [$portion->stop?->distance, $portion->target],
            'a stop of 7.99 ticks rounds down, a target of 10.67 to the nearest',
        );
        $this->expectExceptionMessage('needs 4 closed bars, and 3 have closed so far');
        TrueRanges::for($plan, $bars, self::NINE + 60_000 * 4 - 1);
    }

    public function testAPlanWithoutBarsIsRefusedNamingWhatIsMissing(): void
    {
        $this->expectException(InvalidPlan::class);
        $this->expectExceptionMessage('needs the bars of a contract');
        ExitPlan::fromArray(TestSystem::plan('"stop":{"atr":"1","bar":"5m"}'))->resolve(new Basis(TestSystem::contract(), 825, 1));
    }

    public function testAnOrderKeepsTheRangeThatItWasSentWith(): void
    {
        $system = new TestSystem();
        $body = ['exit_plan' => TestSystem::plan('"stop":{"atr":"2","bar":"1m","length":2}')];
        $refused = $system->refusal(
            'place',
            ['contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 1, 'kind' => 'market'] + $body,
        );
        self::assertSame('plan-does-not-fit', $refused->problem->value);
        self::assertStringContainsString('needs 3 closed bars', $refused->getMessage());
        for ($i = 0; $i < 4; $i++) {
            $system->push(3);
            $system->push(-3);
            $system->wait(60_000);
        }
        $order = $system->place('buy', 1, 'limit', TestSystem::contract()->price($system->last() - 4), more: $body);
        $range = $system->order($order)->ranges['1m/2'];
        self::assertSame(3_000_000, $range);
        // What happens between the order and its fill changes nothing, and neither does a restart.
        $system->push(9);
        $system->wait(60_000);
        $system->restart();
        $system->push(-13 - 3);
        self::assertSame(1, $system->lots());
        self::assertSame([1 => -6], $system->stops($system->average()));
    }
}
