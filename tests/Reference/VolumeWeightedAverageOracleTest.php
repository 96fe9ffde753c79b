<?php

declare(strict_types=1);

namespace Tests\Reference;

use Lotrik\Order\Side;
use Lotrik\Watching\TradingDay;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** A day's volume-weighted average price against the npm package `technicalindicators` (VWAP) over the same prints. */
final class VolumeWeightedAverageOracleTest extends TestCase
{
    public function testTheSamePrintsGiveTheSameAverageAfterEachOfThem(): void
    {
        $dice = new Randomizer(new Mt19937(11));
        $day = new TradingDay();
        $ours = $price = $volume = [];
        for ($i = 0, $tick = 825; $i < 400; $i++) {
            $price[] = $tick = max(1, $tick + $dice->getInt(-3, 3));
            $volume[] = $lots = $dice->getInt(1, 40);
            $day->add($tick, $lots, $dice->getInt(0, 1) === 0 ? Side::Buy : Side::Sell);
            $ours[] = $day->average()?->toFloat();
        }
        $file = (string) tempnam(sys_get_temp_dir(), 'prints');
        file_put_contents($file, json_encode(['price' => $price, 'volume' => $volume], JSON_THROW_ON_ERROR));
        exec('node '.escapeshellarg(__DIR__.'/oracles/volume-weighted-average.mjs').' < '.escapeshellarg($file).' 2>&1', $lines, $status);
        unlink($file);
        self::assertSame(0, $status, implode("\n", array_slice($lines, 0, 5)));
        $theirs = json_decode($lines[0], true);
        self::assertCount(400, $theirs);
        foreach ($theirs as $i => $average) {
            self::assertEqualsWithDelta($average, $ours[$i], 1e-9 * $average, "after print $i");
        }
    }
}
