<?php

declare(strict_types=1);

namespace Tests\Reference;

use Lotrik\Watching\Bars\AverageTrueRange;
use Lotrik\Watching\Bars\Bar;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Wilder's average true range against the npm package `technicalindicators` (ATR) on the same bars. */
final class AverageTrueRangeOracleTest extends TestCase
{
    /** @return iterable<array{int}> */
    public static function lengths(): iterable
    {
        yield [2];
        yield [14];
        yield [50];
    }

    #[DataProvider('lengths')]
    public function testTheSameBarsGiveTheSameAverages(int $length): void
    {
        $dice = new Randomizer(new Mt19937($length));
        $bars = [];
        for ($i = 0, $close = 1000; $i < 300; $i++) {
            $open = $close + $dice->getInt(-4, 4);
            $high = $open + $dice->getInt(0, 12);
            $low = $open - $dice->getInt(0, 12);
            $close = $dice->getInt($low, $high);
            $bars[] = new Bar($i, $open, $high, $low, $close, 1);
        }
        $theirs = self::ask($length, $bars);
        self::assertCount(300 - $length, $theirs);
        foreach ($theirs as $i => $value) {
            $ours = AverageTrueRange::of(array_slice($bars, 0, $length + 1 + $i), $length);
            self::assertEqualsWithDelta($value * AverageTrueRange::SCALE, $ours, $length + 1, "after bar $i");
        }
    }

    /**
     * @param list<Bar> $bars
     *
     * @return list<float>
     */
    private static function ask(int $length, array $bars): array
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'bars');
        file_put_contents(
            $file,
            json_encode(
                [
                    'length' => $length, 'high' => array_column($bars, 'high'), 'low' => array_column($bars, 'low'),
                    'close' => array_column($bars, 'close'),
                ],
                JSON_THROW_ON_ERROR,
            ),
        );
        exec('node '.escapeshellarg(__DIR__.'/oracles/average-true-range.mjs').' < '.escapeshellarg($file).' 2>&1', $lines, $status);
        unlink($file);
        self::assertSame(0, $status, implode("\n", array_slice($lines, 0, 5)));

        return json_decode($lines[0], true);
    }
}
