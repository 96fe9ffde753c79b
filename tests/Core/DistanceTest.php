<?php

declare(strict_types=1);

namespace Tests\Core;

use Lotrik\Document\Node;
use Lotrik\ExitPlan\InTicks\Basis;
use Lotrik\ExitPlan\InTicks\Distance;
use Lotrik\ExitPlan\InTicks\TrueRanges;
use Lotrik\ExitPlan\InvalidPlan;
use Lotrik\Money\Money;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\TestSystem;

/** A distance in another unit is as many whole ticks as it was, as a stop and as a target. */
final class DistanceTest extends TestCase
{
    private const UNITS = ['ticks', 'points', 'money', 'order_money', 'percent', 'account_percent', 'atr'];

    public function testAnotherUnitMovesNoStopAndNoTarget(): void
    {
        $dice = new Randomizer(new Mt19937(1));
        for ($i = 0; $i < 2_000; $i++) {
            $basis = new Basis(
                TestSystem::contract(),
                $dice->getInt(1, 4_000) * $dice->getInt(1, 9),
                $dice->getInt(1, 40),
                Money::of((string) $dice->getInt(100, 90_000), TestSystem::contract()->currency),
                TrueRanges::fromArray(['1m/14' => $dice->getInt(1, 900_000)]),
            );
            [$from, $to] = [self::UNITS[$dice->getInt(0, 6)], self::UNITS[$dice->getInt(0, 6)]];
            $distance = self::distance($from, $from === 'ticks' ? $dice->getInt(1, 900) : sprintf('%d.%02d', $dice->getInt(0, 90), $dice->getInt(1, 99)));
            $ticks = $distance->nearestTicks($basis);
            if ($ticks < 1 || $ticks >= Distance::MAX_TICKS) {
                continue;
            }
            $found = $distance->in(self::distance($to, $to === 'ticks' ? 1 : '3.7'), $basis);
            self::assertSame($to, array_key_first($found->toArray()));
            self::assertSame($ticks, $found->nearestTicks($basis), "$i: ".json_encode([$distance->toArray(), $found->toArray()]));
            if ($to !== 'ticks' && $ticks > 1) {
                self::assertSame($distance->stopTicks($basis), $found->stopTicks($basis), "$i: ".json_encode([$distance->toArray(), $found->toArray()]));
            }
        }
    }

    /** A share of an account that is used up, or of a price of nothing, is no distance: it is refused, and does not run on for ever. */
    public function testWhatComesToNothingIsRefused(): void
    {
        $basis = static fn(string $balance, int $price): Basis
            => new Basis(TestSystem::contract(), $price, 2, Money::of($balance, TestSystem::contract()->currency));
        foreach ([['account_percent', '-250.00', 800], ['account_percent', '0.00', 800], ['percent', '100.00', 0]] as [$unit, $balance, $price]) {
            foreach ([[self::distance('ticks', 7), self::distance($unit, '1')], [self::distance($unit, '1'), self::distance('money', '1')]] as [$from, $to]) {
                try {
                    $found = $from->in($to, $basis($balance, $price))->toArray();
                } catch (InvalidPlan) {
                    $found = 'refused';
                }
                self::assertSame('refused', $found, "$unit of $balance at $price");
            }
        }
    }

    private static function distance(string $unit, int|string $value): Distance
    {
        return Distance::fromNode(Node::of([$unit => $value] + ($unit === 'atr' ? ['bar' => '1m', 'length' => 14] : [])));
    }
}
