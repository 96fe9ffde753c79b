<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\TestCase;
use Tests\Support\RunningDesk;

/** Midnight on the engine: the last trade becomes the settlement, and the price limits count from it. */
final class NextDayTest extends TestCase
{
    public function testAtMidnightTheDayBeginsAnewAndTheLimitsOutliveAKill(): void
    {
        $desk = RunningDesk::start('--seed', '1', '--paused', '--clock', '2026-11-02T23:59:58.000Z');
        try {
            $trader = $desk->trader();
            $step = static fn(int $steps): array => $trader->call('POST', 'practice/DULZ6', ['steps' => $steps])->body;
            $step(150);
            $trader->push('DULZ6', 2);
            $step(100);
            $far = ['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '100.00'];
            $refused = $trader->place($far);
            self::assertSame('beyond-price-limit', $refused->body['code']);
            self::assertSame('/price', $refused->body['pointer']);
            // The settlement is the last trade before midnight; 400 ticks of 0.50 on each side of it.
            $midnight = 1000 * (int) strtotime('2026-11-03T00:00:00Z');
            $before = array_filter(
                $trader->call('GET', 'contracts/DULZ6/tape?most=1000')->body['items'],
                static fn(array $print): bool => $print['at'] < $midnight,
            );
            $settlement = array_values($before)[0]['price'] * 0.5;
            self::assertMatchesRegularExpression('/trades from (\d+\.\d\d) to (\d+\.\d\d) until/', $refused->body['detail']);
            preg_match('/from (\d+\.\d\d) to (\d+\.\d\d)/', $refused->body['detail'], $limits);
            self::assertSame($settlement, ((float) $limits[1] + (float) $limits[2]) / 2);
            self::assertSame(400.0, (float) $limits[2] - (float) $limits[1]);
            $desk->killEngine();
            $again = null;
            \Tests\Support\Wait::until(static function () use ($trader, $far, &$again): bool {
                $again = $trader->place($far);

                return $again->status !== 503;
            }, 'the engine to be back', 20);
            self::assertSame($refused->body['detail'], $again?->body['detail'], 'the limits are those of before the kill');
        } finally {
            $desk->stop();
        }
    }
}
