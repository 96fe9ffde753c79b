<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Demo\KestrelBay;
use App\Engine\Checkpoint\DeskCheckpoint;
use App\Engine\Loop\EngineClock;
use App\Engine\Stream\BookFeed;
use App\Engine\Stream\Frame;
use App\Engine\Stream\RecentFrames;
use App\Engine\Stream\Subscriber;
use App\Engine\Stream\Tickets;
use App\Engine\Stream\WaitingBytes;
use Lotrik\Desk\DeskState;
use Lotrik\Desk\Event\Event;
use Lotrik\Desk\Event\EventCodec;
use Lotrik\Order\Side;
use Lotrik\Refusal\Refusal;
use Lotrik\Watching\Depth\DepthHistory;
use Lotrik\Watching\Levels\LevelFigures;
use Lotrik\Watching\Levels\MarkedLevel;
use PHPUnit\Framework\TestCase;

/** Parts of the engine that want a clock of the test's own. */
final class EnginePartsTest extends TestCase
{
    public function testATicketIsGoodForThirtySecondsAndOnce(): void
    {
        $now = 1000.0;
        $tickets = new Tickets('http://127.0.0.1:1/stream', static function () use (&$now): float {
            return $now;
        });
        $first = $tickets->issue(1, 7, 'session');
        self::assertSame('1970-01-01T00:17:10.000Z', $first['expires_at']);
        self::assertSame(7, $tickets->redeem($first['ticket'])['account'] ?? null);
        self::assertNull($tickets->redeem($first['ticket']));
        $late = $tickets->issue(1, 7, 'session')['ticket'];
        $now += 30;
        self::assertNull($tickets->redeem($late));
        $revoked = $tickets->issue(1, 7, 'session')['ticket'];
        $other = $tickets->issue(1, 7, 'elsewhere')['ticket'];
        $closed = [];
        $tickets->onRevoke(static function (int $user, string $session) use (&$closed): void {
            $closed[] = "$user $session";
        });
        $tickets->revoke(1, 'session');
        self::assertNull($tickets->redeem($revoked));
        self::assertNotNull($tickets->redeem($other));
        self::assertSame(['1 session'], $closed);
        try {
            $tickets->issue(1, 7, 'session');
            self::fail('a request that was on its way when its session was signed out got a ticket');
        } catch (Refusal $refusal) {
            self::assertSame('unauthenticated', $refusal->problem->value);
        }
    }

    /** Under PHP 8.2.36 with the tracing JIT this very sum came out as a pointer, some 94 million million lots. */
    public function testTheEngineRefusesToCountUnderAJit(): void
    {
        $engine = proc_open(
            [
                PHP_BINARY, '-d', 'opcache.enable_cli=1', '-d', 'opcache.jit=tracing', '-d', 'opcache.jit_buffer_size=16M',
                dirname(__DIR__, 2).'/artisan', 'lotrik:engine',
            ],
            [1 => ['pipe', 'w'], 2 => ['pipe', 'w']], $pipes,
        );
        self::assertIsResource($engine);
        self::assertSame(
            "opcache.jit: found it on, expected disable; the JIT of PHP 8.2 was seen to add whole numbers up wrongly\n",
            stream_get_contents($pipes[2]),
        );
        self::assertSame(2, proc_close($engine));

        $depth = new DepthHistory();
        $level = new MarkedLevel(817, 819, 0);
        for ($i = 1; $i < 400; $i++) {
            $depth->sample($i * 250, [817 => 1 + $i % 7, 818 => 3, 850 => 9]);
            self::assertSame(4 + $i % 7, LevelFigures::of($level, $depth)->resting);
        }
    }

    public function testFramesOfAnAccountAreKeptByBytesAndWhatIsGoneIsSaid(): void
    {
        $recent = new RecentFrames(10);
        self::assertNull($recent->after(1, 9));
        self::assertSame('', $recent->after(1, 10));
        for ($i = 11; $i <= 400; $i++) {
            $recent->add(1, $i, str_repeat('x', 1_000));
        }
        self::assertLessThanOrEqual(262_144, $recent->bytes());
        self::assertNull($recent->after(1, 11));
        self::assertSame(3_000, strlen((string) $recent->after(1, 397)));
        // Many accounts: those that were heard of longest ago have to begin anew.
        for ($account = 2; $account <= 200; $account++) {
            for ($n = 0; $n < 3; $n++) {
                $recent->add($account, $account * 1_000 + $n, str_repeat('y', 80_000));
            }
        }
        self::assertLessThanOrEqual(33_554_432, $recent->bytes());
        self::assertNull($recent->after(1, 399));
        self::assertSame(160_000, strlen((string) $recent->after(200, 200_000)));
    }

    /** Streams that nobody reads: each waits up to a megabyte, and all together no more than the budget. */
    public function testStreamsThatAreNeverReadAreClosedBeforeTheyEatTheMemory(): void
    {
        $budget = new WaitingBytes(5_000_000);
        $closed = 0;
        $subscribers = [];
        for ($i = 0; $i < 20; $i++) {
            $connection = $this->createStub(\React\Socket\ConnectionInterface::class);
            $connection->method('write')->willReturn(false);
            $connection->method('close')->willReturnCallback(static function () use (&$closed): void {
                $closed++;
            });
            $subscribers[] = new Subscriber($connection, $budget, $i, $i, '', []);
        }
        for ($n = 0; $n < 40; $n++) {
            foreach ($subscribers as $subscriber) {
                $subscriber->send(str_repeat('x', 20_000));
            }
        }
        self::assertGreaterThan(0, $closed);
        self::assertFalse($budget->isExceeded(), 'what a closed stream held is free again');
        $alone = new WaitingBytes();
        $connection = $this->createMock(\React\Socket\ConnectionInterface::class);
        $connection->method('write')->willReturn(false);
        $connection->expects(self::once())->method('close');
        $one = new Subscriber($connection, $alone, 1, 1, '', []);
        for ($n = 0; $n < 53; $n++) {
            $one->send(str_repeat('x', 20_000));
        }
    }

    /** On a starved machine the child has written for half a minute, and the page of a killed engine looked alive for as long. */
    public function testTheChildThatSavesTheDeskHoldsNoConnectionOpen(): void
    {
        $path = sys_get_temp_dir().'/lotrik-checkpoint-'.bin2hex(random_bytes(4));
        // Opening a pipe that nobody reads waits: the child is in the middle of its work for as long as the test wants.
        self::assertTrue(posix_mkfifo("$path.new", 0o600));
        $server = stream_socket_server('tcp://127.0.0.1:0');
        assert($server !== false);
        $page = stream_socket_client('tcp://'.stream_socket_get_name($server, false));
        $stream = stream_socket_accept($server);
        assert($page !== false && $stream !== false);
        try {
            (new DeskCheckpoint($path, 'build', 0))->saveInChild(new DeskState(), 'hash');
            fwrite($stream, "still here\n");
            self::assertSame("still here\n", fgets($page), 'the engine itself goes on');
            fclose($stream);
            stream_set_timeout($page, 20);
            self::assertFalse(fgets($page));
            self::assertTrue(feof($page), 'closed for the page, too');
        } finally {
            $reader = fopen("$path.new", 'r');
            \Tests\Support\Wait::until(static fn(): bool => pcntl_wait($status, WNOHANG) !== 0, 'the child to end');
            assert($reader !== false);
            fclose($reader);
            @unlink("$path.new");
            @unlink($path);
        }
    }

    public function testTheBookIsMergedBetweenTwoFlushes(): void
    {
        $feed = new BookFeed();
        $feed->level(Side::Buy, 100, 5, 1);
        $feed->level(Side::Buy, 100, 8, 2);
        $feed->level(Side::Sell, 101, 3, 1);
        self::assertSame(['bids' => [[100, 8, 2]], 'asks' => [[101, 3, 1]]], $feed->changes());
        self::assertNull($feed->changes());
        $feed->level(Side::Buy, 100, 0, 0);
        self::assertSame(['bids' => [[100, 0, 0]], 'asks' => []], $feed->changes());
        self::assertSame(['bids' => [], 'asks' => [[101, 3, 1]]], $feed->full());
    }

    /** WHATWG HTML, server-sent events: fields end with a line feed, an event with an empty line. */
    public function testAFrameIsOneServerSentEvent(): void
    {
        self::assertSame("id: 7\nevent: risk\ndata: {\"words\":\"a/b\\nc\"}\n\n", Frame::of('risk', ['words' => "a/b\nc"], 7));
    }

    public function testMoreThanFiftyCommandsASecondForLongerAreRefusedAndReducingOnesNever(): void
    {
        $system = new \Tests\Support\TestSystem();
        $rate = new \App\Engine\Loop\CommandRate();
        $buy = ['contract' => 'DULZ6', 'side' => 'buy', 'kind' => 'market', 'quantity' => 1];
        $taken = static function (float $now, string $op, array $body) use ($rate, $system): bool {
            try {
                $rate->count($op, 1, $body, $system->system->desk->state, $now);

                return true;
            } catch (\Lotrik\Refusal\Refusal $refusal) {
                return $refusal->problem->value !== 'too-many-commands';
            }
        };
        for ($i = 0; $i < 200; $i++) {
            self::assertTrue($taken(100 + $i / 100, 'place', $buy), "a burst of 200 in two seconds, command $i");
        }
        $refused = 0;
        for ($i = 0; $i < 400; $i++) {
            $refused += $taken(102 + $i / 100, 'place', $buy) ? 0 : 1;
        }
        self::assertGreaterThan(100, $refused, 'a hundred a second goes on for too long');
        self::assertTrue($taken(106, 'cancel', []) && $taken(106, 'flatten', []));
        $system->place('buy', 2);
        for ($i = 0; $i < 300; $i++) {
            self::assertTrue($taken(106, 'place', ['side' => 'sell'] + $buy), 'a close is never held back');
        }
    }

    /** The wall clock was set back while the engine was down: it goes on from the last stamp that was kept. */
    public function testTheClockGoesOnFromTheLastStampOverARestart(): void
    {
        $wall = 9_000;
        $clock = new EngineClock(null, 10_000, static function () use (&$wall): int {
            return $wall;
        });
        self::assertSame(10_000, $clock->at(1));
        $wall = 10_500;
        self::assertSame(10_500, $clock->at(2));
    }

    public function testTheClockNeverRunsBackwards(): void
    {
        $clock = new EngineClock(5000);
        self::assertSame([5000, 5030, 5030], [$clock->at(0), $clock->at(3), $clock->at(1)]);
        $wall = new EngineClock(null);
        self::assertGreaterThanOrEqual($wall->at(0), $wall->at(0));
    }

    public function testEveryEventIsWrittenAndReadBackTheSame(): void
    {
        $files = glob(dirname(__DIR__, 2).'/core/Desk/Event/*.php') ?: [];
        $types = [];
        $classes = array_filter(
            array_map(static fn(string $file): string => 'Lotrik\\Desk\\Event\\'.basename($file, '.php'), $files),
            static fn(string $class): bool => class_exists($class) && is_subclass_of($class, Event::class),
        );
        foreach ($classes as $class) {
            $event = (new \ReflectionClass($class))->newInstanceArgs(array_map(
                self::sample(...),
                (new \ReflectionMethod($class, '__construct'))->getParameters(),
            ));
            assert($event instanceof Event);
            $types[] = EventCodec::type($event);
            self::assertEquals(
                $event,
                EventCodec::decode(EventCodec::type($event), EventCodec::version($event), EventCodec::encode($event), new DeskState()),
            );
        }
        self::assertCount(count($classes), array_unique(array_filter($types)));
        $this->expectExceptionMessage('which this build cannot read');
        EventCodec::decode('order-placed', 99, '{}', new DeskState());
    }

    private static function sample(\ReflectionParameter $parameter): mixed
    {
        $type = $parameter->getType();
        assert($type instanceof \ReflectionNamedType);

        return match ($type->getName()) {
            'int' => 7,
            'string' => 'words · “quoted”',
            'bool' => true,
            'array' => ['a' => [1, null, '2.50']],
            default => $type->getName()::cases()[1],
        };
    }

    public function testTheDemoContractsFollowTheDateOfTheFirstRun(): void
    {
        $codes = static fn(string $day): array => array_map(
            static fn(array $c): string => $c[0]->code,
            KestrelBay::contracts(new \DateTimeImmutable($day)),
        );
        self::assertSame(['DULZ6', 'DULH7', 'TIDX6', 'HBNZ6', 'FRXZ6', 'FRXH7', 'MFXZ6', 'HNYZ6', 'YUZX6'], $codes('2026-11-02'));
        self::assertSame(['DULH7', 'DULM7', 'TIDF7', 'HBNH7', 'FRXH7', 'FRXM7', 'MFXH7', 'HNYH7', 'YUZF7'], $codes('2026-12-14'));
        foreach (KestrelBay::plans() as $plan) {
            self::assertSame($plan['name'], \Lotrik\ExitPlan\ExitPlan::fromArray($plan)->name);
        }
    }
}
