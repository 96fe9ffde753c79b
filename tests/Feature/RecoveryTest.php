<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\EventStream;
use Tests\Support\RunningDesk;
use Tests\Support\Trader;
use Tests\Support\Wait;

/** SIGKILL in the middle of a position: nothing acknowledged is lost, the position is covered, the stop stands where it stood. */
final class RecoveryTest extends TestCase
{
    private static ?RunningDesk $desk = null;

    private Trader $trader;

    protected function tearDown(): void
    {
        self::$desk?->stop();
        self::$desk = null;
    }

    protected function setUp(): void
    {
        // One each: bin/start gives an engine up that dies more than 5 times in 60 s.
        self::$desk = RunningDesk::start('--seed', '3', '--paused', '--clock', RunningDesk::CLOCK);
        $this->trader = self::$desk->trader();
        $this->trader->push('DULZ6', 1);
        $this->trader->push('DULZ6', -1);
    }

    private function last(): int
    {
        return (int) \Brick\Math\BigDecimal::of($this->trader->call(
            'GET',
            'contracts/DULZ6/book',
        )->body['last']['price'])->multipliedBy(2)->toInt();
    }

    /** @return int the entry's price in ticks */
    private function enter(): int
    {
        $order = $this->trader->place([
            'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 1,
        ])->body;

        return (int) \Brick\Math\BigDecimal::of($order['average_price'])->multipliedBy(2)->toInt();
    }

    private static function price(int $ticks): string
    {
        return (string) \Brick\Math\BigDecimal::ofUnscaledValue($ticks * 50, 2);
    }

    /** @return iterable<array{string}> */
    public static function points(): iterable
    {
        yield ['before-write'];
        yield ['after-commit'];
        yield ['after-ack'];
    }

    #[DataProvider('points')]
    public function testKilledAtANamedPoint(string $point): void
    {
        $desk = self::$desk;
        assert($desk !== null);
        $entry = $this->enter();
        $this->trader->push('DULZ6', $entry + 5 - $this->last());
        self::assertSame([self::price($entry), self::price($entry)], $this->trader->stops());
        $before = $this->trader->call('GET', "journal?account={$this->trader->account}&after=0")->body['items'];

        $pid = $desk->enginePid();
        $desk->armKill($point);
        $order = [
            'client_id' => Trader::id(), 'account' => $this->trader->account, 'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1,
            'kind' => 'limit', 'price' => self::price($entry - 30),
        ];
        $answer = $this->trader->call('POST', 'orders', $order);
        self::assertSame($point === 'after-ack' ? 201 : 503, $answer->status);
        Wait::until(fn(): bool => ! $desk->isArmed(), 'the kill');
        $desk->awaitEngineOtherThan($pid);

        $again = $this->trader->call('POST', 'orders', $order);
        self::assertSame($point === 'before-write' ? 201 : 200, $again->status, 'nothing was done, or nothing is done twice');
        $working = $this->trader->working();
        self::assertCount(1, array_filter($working, static fn(array $o): bool => $o['role'] === 'entry'));
        self::assertSame([self::price($entry), self::price($entry)], $this->trader->stops());
        self::assertSame([2, 0], [$this->trader->position('DULZ6')['quantity'], $this->trader->position('DULZ6')['unprotected']]);
        $after = $this->trader->call('GET', "journal?account={$this->trader->account}&after=0")->body['items'];
        self::assertSame($before, array_slice($after, 0, count($before)), 'what was acknowledged is there as it was');
        $this->trader->push('DULZ6', $entry + 11 - $this->last());
        self::assertSame([self::price($entry + 5)], $this->trader->stops(), 'the ratchets go on');
    }

    public function testTheBestPriceSurvivesAKillThoughPrintsAreNotJournaled(): void
    {
        $desk = self::$desk;
        assert($desk !== null);
        $order = $this->trader->place([
            'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'market',
            'exit_plan' => ['name' => 'Far', 'stop' => ['ticks' => 30], 'ratchets' => [['at' => 12, 'trail' => 9, 'by' => 3]]],
        ])->body;
        $entry = (int) \Brick\Math\BigDecimal::of($order['average_price'])->multipliedBy(2)->toInt();
        $this->trader->push('DULZ6', $entry + 14 - $this->last());
        self::assertSame([self::price($entry + 3)], $this->trader->stops());
        $this->trader->push('DULZ6', -4);
        $desk->killEngine();
        self::assertSame(14, $this->trader->position('DULZ6')['best']);
        $this->trader->push('DULZ6', 5);
        self::assertSame([self::price($entry + 6)], $this->trader->stops());
    }

    public function testWhatTheMarketDidIsStillToBeSeenAfterAKill(): void
    {
        $desk = self::$desk;
        assert($desk !== null);
        $this->trader->steps('DULZ6', 3_700);
        $depth = fn(int $step): array => $this->trader->call(
            'GET',
            "contracts/DULZ6/depth-history?step=$step&after=1970-01-01T00:00:00.000Z",
        )->body['columns'];
        $seen = fn(): array => [
            $depth(250), $depth(2_000), $depth(15_000), $this->trader->call('GET', 'contracts/DULZ6/tape?most=1000')->body['items'],
            $this->trader->call('GET', 'contracts/DULZ6/bars?by=trades&size=25')->body['bars'],
        ];
        $before = $seen();
        self::assertNotContains([], $before);
        $desk->killEngine();
        $engine = $desk->enginePid();
        self::assertSame(404, $this->trader->call('GET', 'contracts/NONE/depth-history?step=250')->status);
        self::assertSame($before, $seen());
        self::assertSame($engine, $desk->enginePid(), 'a question that came before all was there has not ended it');
        $this->trader->steps('DULZ6', 500);
        $ends = array_column($depth(2_000), 'at');
        self::assertSame(
            [2_000],
            array_values(array_unique(array_map(
                static fn(int $a, int $b): int => $b - $a,
                array_slice($ends, 1, -1),
                array_slice($ends, 2),
            ))),
            'and it goes on without a gap',
        );
    }

    public function testKilledWhileTheMarketRunsNothingIsLostAndAllIsCovered(): void
    {
        $desk = self::$desk;
        assert($desk !== null);
        $this->trader->call('POST', 'practice/DULZ6', ['paused' => false, 'mood' => 'burst']);
        for ($i = 0; $i < 3; $i++) {
            $ids = [];
            for ($n = 0; $n < 4; $n++) {
                $placed = $this->trader->place([
                    'contract' => 'DULZ6', 'side' => $n % 2 === 0 ? 'buy' : 'sell', 'quantity' => 2, 'kind' => 'market',
                    'exit_plan' => 1 + $n, 'closing' => 'through',
                ]);
                self::assertSame(201, $placed->status);
                $ids[] = $placed->body['id'];
            }
            $desk->killEngine();
            $known = array_column($this->trader->call('GET', "orders?account={$this->trader->account}")->body['items'], 'id');
            self::assertSame([], array_diff($ids, $known));
            $position = $this->trader->position('DULZ6');
            self::assertSame(0, $position['unprotected']);
            $stops = array_sum(array_map(static fn(array $o): int => $o['role'] === 'stop' ? $o['leaves'] : 0, $this->trader->working()));
            self::assertLessThanOrEqual(abs($position['quantity']), $stops);
        }
        $this->trader->call('POST', 'practice/DULZ6', ['paused' => true]);
        $flat = $this->trader->call('POST', 'contracts/DULZ6/flatten', ['client_id' => Trader::id(), 'account' => $this->trader->account]);
        self::assertSame(200, $flat->status);
        self::assertSame([], $this->trader->working());
    }

    public function testWhatIsUnderWayToTheVenueSurvivesAKill(): void
    {
        self::$desk?->stop();
        $desk = self::$desk = RunningDesk::start('--seed', '3', '--paused', '--delay', '100', '--clock', RunningDesk::CLOCK);
        $this->trader = $desk->trader();
        $steps = fn(int $n) => $this->trader->steps('DULZ6', $n);
        $steps(1);
        $placed = $this->trader->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 2, 'kind' => 'market', 'exit_plan' => 4]);
        self::assertSame('pending-new', $placed->body['state']);
        $desk->killEngine();
        self::assertSame('pending-new', $this->trader->call('GET', "orders/{$placed->body['id']}")->body['state']);
        $steps(12);
        self::assertSame(0, $this->trader->position('DULZ6')['quantity'], 'filled at the venue, the report is under way');
        $desk->killEngine();
        $steps(12);
        self::assertSame(2, $this->trader->position('DULZ6')['quantity']);
        $desk->killEngine();
        $steps(24);
        self::assertSame([0, 1], [$this->trader->position('DULZ6')['unprotected'], count($this->trader->stops())]);
    }

    public function testAWebWorkerThatDiesIsReplaced(): void
    {
        $desk = self::$desk;
        assert($desk !== null);
        $before = $desk->webWorkers();
        self::assertCount(7, $before, 'the server and its six workers');
        posix_kill(max($before), SIGKILL);
        Wait::until(
            static fn(): bool => count($desk->webWorkers()) === 7 && array_intersect($desk->webWorkers(), $before) === [],
            'a new group of workers',
            15,
        );
        Wait::until(fn(): bool => $this->trader->call('GET', 'accounts')->status === 200, 'the web to answer');
    }

    public function testAFreshEpochTellsThePageToRedraw(): void
    {
        $desk = self::$desk;
        assert($desk !== null);
        $stream = EventStream::of($this->trader, $desk);
        $state = $stream->await('state');
        $desk->killEngine();
        Wait::until(fn(): bool => $stream->isClosed(), 'the stream to break off');
        $again = EventStream::of($this->trader, $desk, "&after={$state['id']}");
        $events = [$again->await('heartbeat')['data']['epoch']];
        self::assertNotSame($state['data']['epoch'], $events[0]);
    }

    public function testTheWebCanOnlyReadTheJournal(): void
    {
        $desk = self::$desk;
        assert($desk !== null);
        $code = 'try { DB::connection("journal")->table("journal")->delete(); echo "gone"; } catch (Throwable $e) { echo $e->getMessage(); }';
        exec(
            'LOTRIK_DATA='.escapeshellarg($desk->data).' '.escapeshellarg(PHP_BINARY).' -r '.escapeshellarg('require "bootstrap/data.php"; require "vendor/autoload.php"; $app = require "bootstrap/app.php"; $app->make(Illuminate\\Contracts\\Console\\Kernel::class)->bootstrap(); class_alias(Illuminate\\Support\\Facades\\DB::class, "DB"); '.$code).' 2>&1',
            $out,
        );
        self::assertStringContainsString('readonly', implode($out));
    }

    public function testTheJournalIsAChainWithoutGaps(): void
    {
        $desk = self::$desk;
        assert($desk !== null);
        $this->enter();
        $rows = (new \PDO("sqlite:{$desk->data}/journal.sqlite"))->query('SELECT * FROM journal ORDER BY sequence');
        assert($rows !== false);
        $hash = str_repeat('0', 64);
        $sequence = 0;
        foreach ($rows->fetchAll(\PDO::FETCH_ASSOC) as $row) {
            self::assertSame(++$sequence, (int) $row['sequence']);
            self::assertSame($hash, $row['previous_hash']);
            $fields = [
                $sequence, (int) $row['at'], (int) $row['step'], $row['account'], $row['contract'], $row['type'], (int) $row['version'],
                $row['command_id'], $row['words'], $row['body'],
            ];
            $hash = hash('sha256', $hash."\n".json_encode($fields, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES));
            self::assertSame($hash, $row['hash']);
        }
        self::assertGreaterThan(20, $sequence);
    }
}
