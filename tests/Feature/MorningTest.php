<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Demo\KestrelBay;
use App\Demo\Scene\Scene;
use App\Demo\Scene\SceneLoader;
use App\Demo\Scene\SceneMaker;
use App\Engine\Journal\Journal;
use App\Engine\Loop\EngineBoot;
use App\Models\FillRow;
use App\Models\JournalRow;
use App\Models\OrderRow;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\JournalFile;
use Tests\Support\RunningDesk;
use Tests\Support\Trader;

/** What the demo opens with: a morning's market, and a week of trades on the second account. */
final class MorningTest extends TestCase
{
    public function testTheDemoOpensOnAMarketThatHasTradedForFourHours(): void
    {
        $desk = RunningDesk::startAsUsual('--paused');
        try {
            exec(escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2).'/artisan').' lotrik:token --data='.escapeshellarg($desk->data), $said);
            $demo = new Trader($desk, 1, (string) end($said), '', '', '');
            self::assertSame(['Practice 1', 'Practice 2'], array_column($demo->call('GET', 'accounts')->body['items'], 'name'));
            $now = microtime(true);
            $contracts = $demo->call('GET', 'contracts')->body['items'];
            self::assertCount(9, $contracts);
            foreach ($contracts as ['code' => $code]) {
                $bars = $demo->call('GET', "contracts/$code/bars?account=1&by=time&size=60")->body['bars'];
                $starts = array_map(static fn(array $bar): int => intdiv($bar[0], 1000), $bars);
                self::assertGreaterThan($now - 180, max($starts), "$code has traded until now");
                self::assertGreaterThan(220, count(array_filter($starts, static fn(int $start): bool => $start > $now - 4 * 3600 - 120)), $code);
                $until = rawurlencode(gmdate('Y-m-d\TH:i:s\Z', (int) $now - 13_800));
                self::assertNotSame([], $demo->call('GET', "contracts/$code/depth-history?account=1&step=15000&until=$until")->body['columns'], $code);
                self::assertGreaterThan(50, count($demo->call('GET', "contracts/$code/tape?account=1")->body['items']), $code);
            }
            self::assertCount(2, $demo->call('GET', 'levels?account=1')->body['items']);
            $fills = $demo->call('GET', 'fills?account=2')->body['items'];
            self::assertGreaterThan(90, count($fills));
            self::assertSame([0], array_values(array_unique(array_column($demo->call('GET', 'positions?account=2')->body['items'], 'quantity'))));
            self::assertSame([], $demo->call('GET', 'fills?account=1')->body['items']);
            // It trades on: over a kill, and on the account that had not traded yet.
            $placed = $demo->place(['contract' => $contracts[0]['code'], 'side' => 'buy', 'quantity' => 1, 'kind' => 'market', 'exit_plan' => KestrelBay::plans()[0]]);
            self::assertSame(201, $placed->status);
            $desk->killEngine();
            self::assertSame(1, $demo->position($contracts[0]['code'])['quantity'] ?? 0);
            $desk->down();
            $desk->up('--paused');
            self::assertCount(count($fills) + 1, [...$demo->call('GET', 'fills?account=2')->body['items'], ...$demo->call('GET', 'fills?account=1')->body['items']]);
        } finally {
            $desk->stop();
        }
    }

    /** @return iterable<string, array{string}> */
    public static function days(): iterable
    {
        yield 'the day it was made' => ['2026-11-09 13:00:30'];
        yield 'the contracts have rolled' => ['2027-02-14 23:59:58'];
        yield 'long after' => ['2031-07-01 06:30:00'];
        yield 'a clock that is wrong' => ['2020-02-29 12:00:00'];
    }

    #[DataProvider('days')]
    public function testItsTimesEndNowAndItsContractsAreThoseOfToday(string $day): void
    {
        $now = 1000 * (int) strtotime("$day UTC");
        $scene = Scene::read(Scene::file());
        $folder = self::folder();
        try {
            $journal = $this->load($scene, $now, $folder);
            $boot = EngineBoot::from($journal, "$folder/desk.checkpoint", 'build', 1, null, 0);
            $listed = array_map(static fn(array $of): string => $of[0]->code, KestrelBay::contracts(new \DateTimeImmutable("$day UTC")));
            self::assertSame($listed, array_keys($boot->system->markets()));
            $texts = JournalRow::on('engine')->get(['at', 'contract', 'words', 'body']);
            foreach (array_diff($scene->contracts, $listed) as $gone) {
                self::assertSame([], $texts->filter(static fn(JournalRow $row): bool => str_contains(json_encode($row->getAttributes(), JSON_THROW_ON_ERROR), $gone))->all());
                self::assertSame(0, OrderRow::on('engine')->where('contract_code', $gone)->count() + FillRow::on('engine')->where('contract_code', $gone)->count());
            }
            $first = $now - ($scene->moments[0]['at'] - $scene->turns[0][0][0]);
            foreach ($texts as $row) {
                self::assertGreaterThan($first - 60_001, $row->at);
                self::assertLessThanOrEqual($now, $row->at);
                preg_match_all('/(?<![\d."])\d{13}(?![\d."])/', (string) $row->getRawOriginal('body'), $times);
                foreach ($times[0] as $time) {
                    // An account is barred until its day's end, which comes later.
                    self::assertLessThanOrEqual($now, (int) $time - 86_400_000);
                }
            }
            $quote = $boot->system->desk->quote($listed[0]);
            self::assertLessThanOrEqual($now, $quote->depth->last()->at ?? PHP_INT_MAX);
            self::assertGreaterThan($now - 16_000, $quote->depth->last()->at ?? 0, 'no gap that would be seen');
            // A clock that has gone on to another day since has begun that day.
            self::assertGreaterThan($now > 1000 * time() ? 10_000 : -1, $quote->day->lots, 'the day goes on');
            self::assertGreaterThan($now - 300_000, $quote->prints->last()[0] ?? 0);
            self::assertFalse((new SceneLoader($scene, $now))->load('build'), 'a directory that has a journal keeps it');
        } finally {
            JournalFile::close();
            exec('rm -rf '.escapeshellarg($folder));
        }
    }

    /** By the real desk and markets, and always the same: short days stand for the long ones. */
    public function testTheSameSeedMakesTheSameScene(): void
    {
        $make = static fn(): Scene => (new SceneMaker(5, days: 1, dayMinutes: 4, morningMinutes: 1))->make(static fn(string $words): null => null);
        $scene = $make();
        self::assertEquals($scene, $make());
        $types = array_merge(...array_map(static fn(array $turn): array => array_column($turn, 2), $scene->turns));
        self::assertContains('order-filled', $types);
        $folder = self::folder();
        try {
            $boot = EngineBoot::from($this->load($scene, $scene->moments[0]['at'], $folder), "$folder/desk.checkpoint", 'build', 1, null, 0);
            foreach ($boot->system->desk->state->holdings as $holdings) {
                self::assertSame(0, $holdings[2]->position->lots ?? 0);
                self::assertSame([], $holdings[2]->working ?? []);
            }
            self::assertSame(JournalRow::on('engine')->where('type', 'order-filled')->count(), FillRow::on('engine')->count());
        } finally {
            JournalFile::close();
            exec('rm -rf '.escapeshellarg($folder));
        }
    }

    public function testAFileThatIsNoSceneIsNamed(): void
    {
        $this->expectExceptionMessage('composer.json: found a file that is no scene');
        Scene::read(dirname(__DIR__, 2).'/composer.json');
    }

    private static function folder(): string
    {
        $folder = sys_get_temp_dir().'/lotrik-morning-'.bin2hex(random_bytes(4));
        mkdir($folder);
        exec(escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2).'/artisan').' lotrik:prepare --data='.escapeshellarg($folder).' 2>&1');

        return $folder;
    }

    private function load(Scene $scene, int $now, string $folder): Journal
    {
        JournalFile::open($folder, hasHead: false);
        self::assertTrue((new SceneLoader($scene, $now))->load('build'));

        return JournalFile::open($folder);
    }
}
