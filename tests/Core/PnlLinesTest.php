<?php

declare(strict_types=1);

namespace Tests\Core;

use Brick\Math\BigRational;
use Lotrik\Contract\Contract;
use Lotrik\Order\Side;
use Lotrik\Position\PnlLine;
use Lotrik\Position\PnlLines;
use Lotrik\Position\Position;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\TestSystem;

final class PnlLinesTest extends TestCase
{
    /** A worked example: long 2 from 824, a tick is 2.50 and a lot's margin 205.00, so 8 ticks are 40.00 of 410.00. */
    public function testEightTicksAreEightForEachLotAndNotQuiteATenthOfTheMargin(): void
    {
        $position = new Position();
        $position->fill(Side::Buy, 2, 824);
        self::assertSame(['scale' => 0, 'base' => -824, 'slope' => 1, 'shown' => 0], PnlLines::ticks($position));
        $line = PnlLines::percent($position, self::contract('205.00'));
        self::assertNotNull($line);
        self::assertSame([8, 9_75609752], [$line['scale'], $line['base'] + 832 * $line['slope']], '9.756 percent');
        self::assertSame(0, $line['base'] + 824 * $line['slope'], 'nothing where it was bought');
    }

    public function testAShortGainsDownwardsAndWithoutAMarginThereIsNoPercentage(): void
    {
        $position = new Position();
        $position->fill(Side::Sell, 1, 824);
        $line = PnlLines::ticks($position);
        self::assertSame(10, $line['base'] + 814 * $line['slope']);
        self::assertNull(PnlLines::percent($position, self::contract('0')));
        self::assertNull(PnlLines::percent(new Position(), self::contract('205.00')), 'flat');
    }

    /** Whatever the average, a line is off the truth by far less than is shown of it, at thousands of ticks away too. */
    public function testALineIsAsExactAsItIsShown(): void
    {
        $seed = random_int(0, PHP_INT_MAX);
        $dice = new Randomizer(new Mt19937($seed));
        for ($i = 0; $i < 300; $i++) {
            $position = new Position();
            $side = $dice->getInt(0, 1) === 0 ? Side::Buy : Side::Sell;
            for ($fills = $dice->getInt(1, 4); $fills > 0; $fills--) {
                $position->fill($side, $dice->getInt(1, 50), $dice->getInt(-500, 5000));
            }
            $contract = self::contract(sprintf('%d.%02d', $dice->getInt(1, 20_000), $dice->getInt(0, 99)));
            $percent = PnlLines::percent($position, $contract);
            self::assertNotNull($percent);
            $ticks = PnlLines::ticks($position);
            $tick = $dice->getInt(-500, 5000);
            $lots = abs($position->lots);
            foreach ([
                [$ticks, $position->openTicks($tick)->rational()->dividedBy($lots)],
                [$percent, $position->openTicks($tick)->rational()->multipliedBy($contract->tickValue)->dividedBy($contract->dayMargin)->dividedBy($lots)->multipliedBy(100)],
            ] as [$line, $truth]) {
                $shown = BigRational::of($line['base'] + $line['slope'] * $tick)->dividedBy(10 ** $line['scale']);
                self::assertTrue($shown->minus($truth)->abs()->isLessThan('0.001'), "seed $seed, turn $i: $shown for $truth");
            }
            $money = PnlLine::of($position, $contract);
            self::assertSame($money->slope <=> 0, $percent['slope'] <=> 0);
        }
    }

    public function testAnOrderOfAFlatAccountSaysItsLinesAndOneBesideAPositionDoesNot(): void
    {
        $system = new TestSystem();
        $desk = $system->system->desk;
        $order = ['account' => 1, 'contract' => TestSystem::CODE, 'side' => 'buy', 'quantity' => 2, 'kind' => 'limit', 'price' => sprintf('%.2f', ($system->last() - 4) / 2)];
        $preview = $desk->queries->preview(1, $order, $system->now());
        self::assertSame(0, $preview['lines']['ticks']['base'] + $preview['lines']['ticks']['slope'] * $preview['tick']);
        self::assertSame(2, intdiv($preview['lines']['money']['slope'], $desk->queries->preview(1, ['quantity' => 1] + $order, $system->now())['lines']['money']['slope']));
        $system->place('buy', 1);
        self::assertNull($desk->queries->preview(1, $order, $system->now())['lines']);
    }

    private static function contract(string $margin): Contract
    {
        return Contract::fromJson(json_encode([
            'code' => 'DULZ6', 'tick_size' => '0.50', 'tick_value' => '2.50', 'currency' => 'EUR', 'day_margin' => $margin,
        ], JSON_THROW_ON_ERROR));
    }
}
