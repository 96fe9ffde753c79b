<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Demo\KestrelBay;
use App\Engine\Checkpoint\HistoryBacklog;
use App\Engine\Loop\Engine;
use App\Engine\Loop\EngineBoot;
use App\Engine\Loop\Practice;
use App\Engine\Loop\Request;
use App\Engine\Operation\Operation;
use App\Engine\Operation\Operations;
use App\Engine\Stream\Publisher;
use App\Engine\Stream\StreamServer;
use App\Engine\Stream\Tickets;
use Lotrik\Desk\Desk;
use PHPUnit\Framework\TestCase;
use React\EventLoop\StreamSelectLoop;
use Tests\Support\JournalFile;

/** Turns of the engine's loop, one by one, without its sockets. */
final class EngineTurnsTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/lotrik-turns-'.bin2hex(random_bytes(4));
        exec(
            'LOTRIK_BUILD=turns '.escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2).'/artisan').' lotrik:prepare --data='
                .escapeshellarg($this->folder).' 2>&1',
            $out,
            $status,
        );
        self::assertSame(0, $status, implode("\n", $out));
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    private function engine(): Engine
    {
        $journal = JournalFile::open($this->folder);
        $boot = EngineBoot::from($journal, "$this->folder/desk.checkpoint", 'turns', 3, 1_793_611_800_000, 0);
        $tickets = new Tickets('http://localhost/stream', static fn(): float => 0.0);
        $practice = Practice::resumed($boot->system, true, 'turns', $boot->practice);
        $operations = new Operations(
            $boot->system, $practice, $tickets, $boot->clock, $journal, $backlog = new HistoryBacklog($journal, $boot->system),
        );
        $stream = new StreamServer($loop = new StreamSelectLoop(), $tickets, $boot->system->desk->state->sequence, [], []);
        $publisher = new Publisher($boot->system, $operations, $stream, $boot->feeds, 'turns');

        return new Engine(
            $boot->system, $journal, $boot->checkpoints, $boot->deskCheckpoint, $backlog, $boot->clock, $practice, $operations, $publisher,
            $loop, 'turns',
        );
    }

    /** @param array<string, mixed> $body */
    private static function request(string $op, array $body): Request
    {
        return Request::parse((string) json_encode([
            'v' => 1, 'id' => 'a', 'op' => $op, 'actor' => ['user' => $op === 'open-account' ? null : 1, 'account' => 1],
            'deadline' => microtime(true) + 60, 'body' => $body,
        ]));
    }

    /**
     * @param array<string, mixed> $body
     *
     * @return array<string, mixed>
     */
    private static function ask(Engine $engine, string $op, array $body): array
    {
        $answer = null;
        $engine->enqueue(self::request($op, $body), static function (array $reply) use (&$answer): void {
            $answer = $reply;
        });
        for ($turns = 0; $answer === null && $turns < 2_000; $turns++) {
            $engine->turn();
        }
        self::assertNotNull($answer, 'an answer within 2,000 turns');

        return $answer;
    }

    public function testWhatIsAskedBeforeAllOfTheDepthHistoryIsBackIsAnsweredInFullOrRefusedAndNeverEndsTheEngine(): void
    {
        $engine = $this->engine();
        self::assertTrue(self::ask($engine, 'open-account', ['owner' => 1] + KestrelBay::account(1))['ok']);
        for ($i = 0; $i < 2; $i++) {
            self::assertTrue(self::ask($engine, 'practice', ['contract' => 'DULZ6', 'steps' => 10_000])['ok']);
        }
        $everything = ['contract' => 'DULZ6', 'step' => 250];
        $before = self::ask($engine, 'depth-history', $everything);
        self::assertNotNull($before['body']['next'], 'the oldest columns, and there are more');
        $looks = [
            'tape' => ['contract' => 'DULZ6', 'most' => 1_000],
            'bars' => ['contract' => 'DULZ6', 'by' => 'trades', 'size' => 100, 'most' => 100], 'prints' => ['contract' => 'DULZ6'],
        ];
        $shown = array_map(static fn(string $op): array => self::ask($engine, $op, $looks[$op])['body'], array_keys($looks));
        self::assertCount(1_000, $shown[0]['items']);
        unset($engine);
        foreach (array_keys($looks) as $i => $op) {
            self::assertEquals($shown[$i], self::ask($this->engine(), $op, $looks[$op])['body'], $op);
        }

        $again = $this->engine();
        $refused = self::ask($again, 'depth-history', ['contract' => 'NONE', 'step' => 250]);
        self::assertSame([false, 'not-found'], [$refused['ok'], $refused['problem']['code'] ?? null]);
        $known = self::ask($this->engine(), 'depth-history', $everything);
        self::assertEquals($before['body'], $known['body']);
    }

    /** All of them in one turn kept whoever sent an order then waiting for nine milliseconds more, once a second. */
    public function testMarketsAreSavedAFewInATurnAndNoneStaysUnsavedForLong(): void
    {
        $journal = JournalFile::open($this->folder);
        $boot = EngineBoot::from($journal, "$this->folder/desk.checkpoint", 'turns', 3, 1_793_611_800_000, 0);
        $all = array_keys($boot->system->markets());
        $saved = array_fill_keys($all, $boot->system->steps());
        for ($step = 0; $step < 400; $step++) {
            $boot->system->step($boot->clock->at($boot->system->steps() + 1));
            // What belongs to an order is saved with it, and its market counts from there.
            $due = array_values(array_unique([...($step % 50 === 7 ? [$all[3]] : []), ...$boot->checkpoints->due($boot->system)]));
            $boot->checkpoints->of($boot->system, $due, 0, []);
            self::assertLessThanOrEqual(3, count($due));
            foreach ($due as $contract) {
                $saved[$contract] = $boot->system->steps();
            }
            self::assertLessThan(110, $boot->system->steps() - min($saved), "at step $step");
        }
        self::assertGreaterThan(200, min($saved));
    }

    /** In one turn each, however much of what somebody asked of the practice market is still to be done. */
    public function testOrdersGoBetweenTheStepsOfTheMarket(): void
    {
        $engine = $this->engine();
        self::assertTrue(self::ask($engine, 'open-account', ['owner' => 1] + KestrelBay::account(1))['ok']);
        $practised = null;
        $engine->enqueue(self::request('practice', ['contract' => 'DULZ6', 'steps' => 10_000, 'push_ticks' => 900]), static function (array $reply) use (&$practised): void {
            $practised = $reply;
        });
        $engine->turn();
        $before = self::ask($engine, 'book', ['contract' => 'DULZ6'])['body'];
        for ($i = 0; $i < 5; $i++) {
            $placed = null;
            $order = ['contract' => 'TIDX6', 'side' => 'buy', 'quantity' => 1, 'kind' => 'limit', 'price' => '80.00', 'client_id' => "o$i"];
            $engine->enqueue(self::request('place', $order), static function (array $reply) use (&$placed): void {
                $placed = $reply;
            });
            $engine->turn();
            self::assertSame([201, null], [$placed['status'] ?? $placed, $practised], 'the order is answered within a turn, the steps are not done');
        }
        for ($turns = 0; $practised === null && $turns < 20_000; $turns++) {
            $engine->turn();
        }
        self::assertTrue($practised['ok'] ?? false);
        self::assertNotEquals($before['bids'], self::ask($engine, 'book', ['contract' => 'DULZ6'])['body']['bids']);
    }

    /** What only reads says what went wrong to whoever asked, and nothing that trades ends with it. The web lets no such question through. */
    public function testAFaultInWhatOnlyReadsDoesNotEndTheEngine(): void
    {
        $engine = $this->engine();
        self::assertTrue(self::ask($engine, 'open-account', ['owner' => 1] + KestrelBay::account(1))['ok']);
        self::assertTrue(self::ask($engine, 'practice', ['contract' => 'DULZ6', 'steps' => 3_000])['ok']);
        $noise = ['contract' => 'DULZ6', 'quantity' => 1, 'document' => ['name' => 'x', 'stop' => ['ticks' => 2]]];
        $refused = self::ask($engine, 'noise', $noise + ['minutes' => PHP_INT_MAX]);
        self::assertSame([false, 'fault'], [$refused['ok'], $refused['problem']['code'] ?? null], (string) json_encode($refused));
        $answer = self::ask($engine, 'noise', $noise + ['minutes' => 10]);
        self::assertTrue($answer['ok']);
        self::assertGreaterThan(0, $answer['body']['by_stop'][0]['buy']['cases']);
    }

    /**
     * Nobody's long question holds more workers of the web than one, nor longer than a moment: a newer one takes the place of the
     * older, two may wait at the same time, and whoever was told to ask again gets what came of it.
     */
    public function testLongQuestionsHoldFewWorkersAndAreWorkedOutAllTheSame(): void
    {
        $engine = $this->engine();
        foreach ([2, 3] as $user) {
            self::assertTrue(self::ask($engine, 'open-account', ['owner' => $user] + KestrelBay::account($user))['ok']);
        }
        self::assertTrue(self::ask($engine, 'practice', ['contract' => 'DULZ6', 'steps' => 5_000])['ok']);
        $portions = array_map(static fn(int $n): array => ['lots' => 1, 'target' => ['ticks' => $n]], range(1, 19));
        $noise = static fn(int $stop): array => ['contract' => 'DULZ6', 'quantity' => 20, 'minutes' => 240, 'by_stop' => true, 'document' => [
            'name' => 'x', 'stop' => ['ticks' => $stop], 'portions' => [...$portions, ['rest' => true, 'target' => null]],
        ]];
        $answers = [];
        $asked = static function (string $name, int $user, array $body) use ($engine, &$answers): void {
            $engine->enqueue(Request::parse((string) json_encode([
                'v' => 1, 'id' => $name, 'op' => 'noise', 'actor' => ['user' => $user, 'account' => $user], 'deadline' => microtime(true) + 60, 'body' => $body,
            ])), static function (array $reply) use (&$answers, $name): void {
                $answers[$name] = $reply['ok'] ? 'ok' : $reply['problem']['code'];
            });
        };
        $asked('older', 1, $noise(8));
        $asked('newer', 1, $noise(9));
        $asked('another user', 2, $noise(8));
        $asked('one too many', 3, $noise(8));
        $engine->turn();
        self::assertSame(['older' => 'busy', 'one too many' => 'busy'], $answers);
        for ($turns = 0; count($answers) < 4 && $turns < 20_000; $turns++) {
            $engine->turn();
        }
        self::assertCount(4, $answers, 'each is answered');
        // It was worked out though nobody waited: asked again, it is there or soon is.
        for ($tries = 0; ($answers['again'] ?? '') !== 'ok' && $tries < 100; $tries++) {
            unset($answers['again']);
            $asked('again', 3, $noise(8));
            for ($turns = 0; ! isset($answers['again']) && $turns < 20_000; $turns++) {
                $engine->turn();
            }
        }
        self::assertSame('ok', $answers['again']);
    }

    /** SQLite would bring it into the database within somebody's commit, and only once it has 4 MB. */
    public function testTheWriteAheadLogIsKeptShortBetweenTurns(): void
    {
        $engine = $this->engine();
        self::assertTrue(self::ask($engine, 'open-account', ['owner' => 1] + KestrelBay::account(1))['ok']);
        for ($i = 0; $i < 100; $i++) {
            self::assertTrue(self::ask($engine, 'practice', ['contract' => 'DULZ6', 'steps' => 10])['ok']);
            $engine->turn();
        }
        clearstatcache();
        self::assertLessThan(2_000_000, filesize("$this->folder/journal.sqlite-wal"));
    }

    public function testEveryCommandOfTheDeskCanBeAskedForByItsName(): void
    {
        foreach ((new Desk())->operations() as $name) {
            self::assertFalse(Operation::from($name)->onlyReads(), $name);
        }
        $this->expectExceptionMessage('the engine knows no operation "conjure"');
        self::request('conjure', []);
    }
}
