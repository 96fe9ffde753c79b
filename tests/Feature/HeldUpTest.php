<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\JournalRow;
use PHPUnit\Framework\TestCase;
use Tests\Support\EventStream;
use Tests\Support\JournalFile;
use Tests\Support\RunningDesk;
use Tests\Support\Wait;

/** What could hold the desk up, or be forgotten: a market in a hurry, an engine that stands still, a kill, too many streams, a damaged journal. */
final class HeldUpTest extends TestCase
{
    private ?RunningDesk $desk = null;

    protected function tearDown(): void
    {
        $this->desk?->stop();
    }

    private function start(string ...$options): RunningDesk
    {
        return $this->desk = RunningDesk::start('--seed', '3', '--clock', RunningDesk::CLOCK, ...$options);
    }

    /** At a hundred times its speed a market in a burst does not keep up; whoever slows it down again is answered all the same. */
    public function testAMarketThatCannotKeepUpIsSlowedDownAgain(): void
    {
        $trader = $this->start()->trader();
        $codes = array_column($trader->call('GET', 'contracts')->body['items'], 'code');
        foreach ([...$codes, ...$codes] as $code) {
            self::assertSame(200, $trader->call('POST', "practice/$code", ['mood' => 'burst', 'speed' => 100])->status);
        }
        self::assertSame(200, $trader->call('POST', 'practice/DULZ6', ['speed' => 1, 'paused' => true])->status);
        $stands = $trader->call('GET', 'contracts/DULZ6/book')->body;
        self::assertSame($stands, $trader->call('GET', 'contracts/DULZ6/book')->body);
    }

    public function testAStoppedEngineIsSaidToBeAwayAndNothingIsDone(): void
    {
        $desk = $this->start('--paused');
        $trader = $desk->trader();
        $pid = $desk->enginePid();
        posix_kill($pid, SIGSTOP);
        try {
            $answer = $trader->place([
                'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00', 'client_id' => 'once',
            ]);
            self::assertSame([503, 'engine-away'], [$answer->status, $answer->body['code']]);
        } finally {
            posix_kill($pid, SIGCONT);
        }
        Wait::until(
            static fn(): bool => $trader->call('GET', "orders?state=working&account={$trader->account}")->status === 200,
            'the engine to go on',
        );
        self::assertSame([], $trader->working());
    }

    public function testAMarketThatWasSteeredGoesOnSoOverAKillAndNotOverAStart(): void
    {
        $desk = $this->start('--paused');
        $trader = $desk->trader();
        $number = static fn(): int => $trader->call('GET', 'contracts/DULZ6/tape?most=1')->body['items'][0]['number'] ?? 0;
        $trader->call('POST', 'practice/DULZ6', ['paused' => false, 'speed' => 5, 'mood' => 'burst']);
        $desk->killEngine();
        $before = $number();
        Wait::until(static fn(): bool => $number() > $before + 20, 'the market to move by itself');
        $trader->call('POST', 'practice/DULZ6', ['paused' => true]);
        $desk->killEngine();
        $stands = $number();
        $trader->push('DULZ6', 1);
        self::assertGreaterThan($stands, $pushed = $number());
        $desk->down();
        $desk->up();
        Wait::until(static fn(): bool => $number() > $pushed, 'a market that was started without --paused to move');
    }

    /** More connections than a process can watch, and none of them says a word. */
    public function testConnectionsThatSayNothingEndNothing(): void
    {
        $desk = $this->start('--paused');
        $trader = $desk->trader();
        $pid = $desk->enginePid();
        $silent = [];
        for ($i = 0; $i < 1_200; $i++) {
            $silent[] = @stream_socket_client("tcp://127.0.0.1:{$desk->streamPort}", $code, $message, 1);
        }
        self::assertGreaterThan(1_000, count(array_filter($silent)));
        self::assertSame(
            201,
            $trader->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00'])->status,
        );
        self::assertSame($pid, $desk->enginePid());
        $silent = [];
        Wait::until(static fn(): bool => EventStream::of($trader, $desk)->status() === 200, 'streams to be served again');
    }

    public function testOneUserHasOnlySoManyStreams(): void
    {
        $desk = $this->start('--paused');
        [$trader, $other] = [$desk->trader(), $desk->trader()];
        $streams = [];
        for ($i = 0; $i < 32; $i++) {
            self::assertSame(200, ($streams[] = EventStream::of($trader, $desk))->status());
        }
        self::assertSame(503, EventStream::of($trader, $desk)->status());
        self::assertSame(200, EventStream::of($other, $desk)->status());
        $streams[0]->close();
        Wait::until(static fn(): bool => EventStream::of($trader, $desk)->status() === 200, 'a place to be free again');
    }

    /** @return iterable<string, array{string, callable(string): void}> what is said, and what is done to the data directory */
    public static function damages(): iterable
    {
        yield 'a write-ahead log that is cut' => ['/^journal: found \d+ as its last row, expected at least \d+, which was acknowledged; put the data directory back from a copy, or start with --fresh/', static function (string $data): void {
            $file = fopen("$data/journal.sqlite-wal", 'r+');
            assert($file !== false);
            ftruncate($file, 4096);
            fclose($file);
        }];
        yield 'a journal that is no database' => ['~/journal\.sqlite: found a damaged database, expected the one that was written; put the data directory back from a copy~', static function (string $data): void {
            unlink("$data/journal.sqlite-wal");
            file_put_contents("$data/journal.sqlite", str_repeat('no database ', 5_000));
        }];
    }

    /** @param callable(string): void $damage */
    #[\PHPUnit\Framework\Attributes\DataProvider('damages')]
    public function testADamagedJournalStopsTheStartInOneLine(string $says, callable $damage): void
    {
        $desk = $this->start('--paused');
        $trader = $desk->trader();
        $trader->place(['contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00']);
        $desk->crash();
        $damage($desk->data);
        [$status, $line] = $desk->failsToStart('--paused');
        self::assertSame(2, $status, $line);
        self::assertMatchesRegularExpression($says, $line);
        self::assertStringNotContainsString("\n", trim($line));
    }

    /** Ids of commands long forgotten are known from the journal, and orders that ended long ago are answered from its tables. */
    public function testAnOldClientIdIsNeverTakenForANewOne(): void
    {
        $desk = $this->start('--paused');
        $trader = $desk->trader();
        $order = [
            'contract' => 'DULZ6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '300.00', 'client_id' => 'old one',
            'account' => $trader->account,
        ];
        $placed = $trader->call('POST', 'orders', $order)->body;
        $trader->call('DELETE', "orders/{$placed['id']}");
        // As if twenty thousand commands had come since: the engine has forgotten it.
        $desk->crash();
        $pdo = new \PDO("sqlite:{$desk->data}/journal.sqlite");
        self::assertSame(
            1,
            (int) $pdo->query("SELECT COUNT(*) FROM journal WHERE type = 'command' AND command_id = 'old one'")->fetchColumn(),
        );
        $journal = JournalFile::open($desk->data, false);
        self::assertTrue($journal->has($trader->account, 'old one'));
        self::assertFalse($journal->has($trader->account + 1, 'old one'));
        self::assertFalse($journal->has($trader->account, 'new one'));
        // Of a million rows it reads the one, for each command that it does not remember.
        $database = JournalRow::on('engine')->getConnection();
        $database->enableQueryLog();
        $journal->has($trader->account, 'old one');
        $asked = $database->getQueryLog()[0];
        self::assertStringContainsString(
            'journal_command',
            json_encode($database->select("EXPLAIN QUERY PLAN {$asked['query']}", $asked['bindings']), JSON_THROW_ON_ERROR),
        );
        self::assertSame('cancelled', $journal->order($placed['id'])?->state->value);
        JournalFile::close();
        $desk->up('--paused');
        $again = $trader->call('POST', 'orders', $order);
        self::assertSame([200, $placed['id'], 'cancelled'], [$again->status, $again->body['id'], $again->body['state']]);
    }
}
