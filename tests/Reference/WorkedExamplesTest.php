<?php

declare(strict_types=1);

namespace Tests\Reference;

use Brick\Math\RoundingMode;
use Lotrik\Contract\Contract;
use Lotrik\ExitPlan\ExitPlan;
use Lotrik\Order\OrderKind;
use Lotrik\Order\Side;
use Lotrik\Position\Position;
use Lotrik\Rehearsal\EntryOrder;
use Lotrik\Rehearsal\PrintList;
use Lotrik\Rehearsal\Rehearsal;
use Lotrik\Rehearsal\TapePrint;
use PHPUnit\Framework\TestCase;
use Tests\Support\TestSystem;

/** Average cost, first in first out, and daily settlement, against worked examples of textbooks. Their values are from memory. */
final class WorkedExamplesTest extends TestCase
{
    /**
     * OpenStax, Principles of Accounting, volume 1, chapter 10, the perpetual inventory of "The Spy Who Loves You":
     * 150 at 21, 120 sold at 36, 225 bought at 27, 180 sold at 39, 210 bought at 33.
     */
    private const TRADES = [['buy', 150, 21], ['sell', 120, 36], ['buy', 225, 27], ['sell', 180, 39], ['buy', 210, 33]];

    /** Weighted average, perpetual: cost of what was sold 7,253, left over 8,902. */
    public function testAverageCost(): void
    {
        $position = new Position();
        $sales = 0;
        foreach (self::TRADES as [$side, $lots, $price]) {
            $position->fill(Side::from($side), $lots, $price);
            $sales += $side === 'sell' ? $lots * $price : 0;
        }
        self::assertSame(285, $position->lots);
        $sold = $position->realised->minus($sales)->negated();
        self::assertSame('7253', (string) $sold->toScale(0, RoundingMode::HALF_UP));
        self::assertSame('8902', (string) $position->average->multipliedBy(285)->toScale(0, RoundingMode::HALF_UP));
        self::assertSame('31.24', (string) $position->average->toScale(2, RoundingMode::HALF_UP));
    }

    /**
     * J. C. Hull, Options, Futures, and Other Derivatives, 9th edition, table 2.1: two contracts of 100 ounces bought at 1,250.00 and
     * closed at 1,226.90; the daily gains that it prints, and their sum of −4,620.
     */
    public function testDailySettlement(): void
    {
        $contract = Contract::fromArray([
            'code' => 'AUXZ6', 'tick_size' => '0.10', 'tick_value' => '10.00', 'currency' => 'USD',
        ]);
        $settled = [
            '1241.00' => -1800, '1238.30' => -540, '1244.60' => 1260, '1241.30' => -660, '1240.10' => -240, '1236.20' => -780, '1229.90' => -1260,
            '1230.80' => 180, '1225.40' => -1080, '1228.10' => 540, '1211.00' => -3420, '1214.30' => 660, '1216.10' => 360, '1223.00' => 1380,
        ];
        $position = new Position();
        $position->fill(Side::Buy, 2, $contract->ticks('1250.00'));
        $before = $contract->money(0);
        foreach ($settled as $price => $gain) {
            $now = $contract->money($position->openTicks($contract->ticks((string) $price)));
            self::assertSame("$gain.00", $now->minus($before)->exact(), (string) $price);
            $before = $now;
        }
        $position->fill(Side::Sell, 2, $contract->ticks('1226.90'));
        self::assertSame('780.00', $contract->money($position->realised)->minus($before)->exact(), 'the last day');
        self::assertSame('-4620.00', $contract->money($position->realised)->exact());
    }

    /**
     * First in, first out, of the same source: cost of what was sold 7,200. A rehearsal fills its entry over several prints and counts
     * each lot that closes against its own fill, the oldest first: 150 at 21 and 225 at 27, of which 300 are closed.
     */
    public function testFirstInFirstOut(): void
    {
        $contract = TestSystem::contract();
        $plan = ExitPlan::fromArray(['name' => 'x', 'stop' => null, 'portions' => [
            ['lots' => 300, 'target' => ['ticks' => 7]], ['rest' => true, 'target' => ['ticks' => 900]],
        ], 'after_target' => 'keep-entry']);
        $order = new EntryOrder(Side::Buy, 375, OrderKind::Market, null, null, false);
        // The average is 24.6, rounded up, so the target of the first 300 lots stands at 32.
        $prints = [[21, 150], [27, 225], [32, 300]];
        $tape = new PrintList(array_map(
            static fn(array $print, int $i): TapePrint => TapePrint::atTheTouch(1_000_000 * $i, $print[0], $print[1], Side::Buy),
            $prints,
            array_keys($prints),
        ));
        $told = (new Rehearsal($contract, $plan, $order, useSize: true))->over($tape);
        self::assertSame(75, $told['open_quantity'], (string) json_encode($told));
        $received = 300 * 32;
        self::assertSame(7_200, $received - $told['result']['ticks']);
    }
}
