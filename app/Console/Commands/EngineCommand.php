<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitMessage;
use App\Console\ExitMessageFile;
use App\Engine\Checkpoint\HistoryBacklog;
use App\Engine\Journal\EngineConnection;
use App\Engine\Journal\Head;
use App\Engine\Journal\Journal;
use App\Engine\Journal\JournalDamaged;
use App\Engine\Loop\Engine;
use App\Engine\Loop\EngineBoot;
use App\Engine\Loop\GarbageCollection;
use App\Engine\Loop\Jit;
use App\Engine\Loop\Practice;
use App\Engine\Loop\ReadFault;
use App\Engine\Operation\Operations;
use App\Engine\Rpc\RpcServer;
use App\Engine\Stream\Publisher;
use App\Engine\Stream\StreamServer;
use App\Engine\Stream\Tickets;
use Illuminate\Console\Command;
use React\EventLoop\Loop;
use React\Socket\LimitingServer;
use React\Socket\TcpServer;
use React\Socket\UnixServer;

/** The engine: one process that holds all trading state of one market. */
final class EngineCommand extends Command
{
    protected $signature = 'lotrik:engine {--data=} {--seed=1} {--clock=} {--paused} {--demo-hours : on the first run, contracts trade '
        .'in hours of their own and not round the clock} {--delay=0 : ms between desk and venue, each way}';

    protected $description = 'Run the engine (bin/start does this)';

    private const MAX_SOCKET_PATH = 107;

    /**
     * The loop watches its sockets with select(), which knows no descriptor beyond 1,023 and would end the engine at the
     * first one. Whoever opens more streams than this is closed at once; callers wait in the backlog.
     */
    private const MAX_CONNECTIONS = 930;

    private const MAX_CALLERS = 60;

    /** Bytes of memory that are kept back for the last words. */
    private const RESERVE = 262_144;

    public function handle(): int
    {
        if (Jit::isOn()) {
            return $this->refuse('opcache.jit: found it on, expected disable; the JIT of PHP 8.2 was seen to add whole numbers up wrongly');
        }
        $data = (string) config('lotrik.data');
        $socket = (string) config('lotrik.socket');
        if (strlen($socket) > self::MAX_SOCKET_PATH) {
            $most = self::MAX_SOCKET_PATH;

            return $this->refuse("socket path $socket: found ".strlen($socket)." bytes, expected at most $most; choose a shorter --data");
        }
        $lock = fopen("$data/engine.lock", 'c');
        if ($lock === false || ! flock($lock, LOCK_EX | LOCK_NB)) {
            return $this->refuse("data directory $data: found another engine running on it, expected none; stop it or choose another "
                .'--data');
        }
        $words = new ExitMessageFile("$data/engine.words");
        self::tellOfNoMemory($words, $data);
        $clock = $this->clock();
        if ($clock === false) {
            return $this->refuse('--clock: found "'.$this->option('clock').'", expected a time such as 2026-11-02T09:30:00Z');
        }
        $garbage = new GarbageCollection();
        $build = (string) config('lotrik.build');
        try {
            EngineConnection::register();
            $journal = new Journal(new Head("$data/journal.head"));
            $boot = EngineBoot::from(
                $journal, "$data/desk.checkpoint", $build, (int) $this->option('seed'), $clock, intdiv((int) $this->option('delay'), 10),
                (bool) $this->option('demo-hours'),
            );
        } catch (\Throwable $fault) {
            return $this->ended($words, $fault, $data, ExitMessage::mayPass($fault) ? 1 : 2);
        }
        try {
            $this->serve($boot, $journal, $garbage, $build, $socket);
        } catch (\Throwable $fault) {
            return $this->ended($words, $fault, $data, 1);
        }

        return 0;
    }

    private function ended(ExitMessageFile $words, \Throwable $fault, string $data, int $status): int
    {
        $line = ExitMessage::of($fault, $data);
        $words->say($line);
        // On a full disk the log takes nothing more, and that must not be the fault that is told.
        @fwrite(STDERR, ($fault instanceof JournalDamaged ? '' : "$fault\n")."$line\n");

        return $status;
    }

    private function serve(EngineBoot $boot, Journal $journal, GarbageCollection $garbage, string $build, string $socket): void
    {
        $loop = Loop::get();
        [$host, $port, $streamPort] = [(string) config('lotrik.host'), (int) config('lotrik.port'), (int) config('lotrik.stream_port')];
        /** @var list<string> $names */
        $names = config('lotrik.names');
        $tickets = new Tickets("http://$host:$streamPort/stream", static fn(): float => microtime(true));
        $practice = Practice::resumed($boot->system, (bool) $this->option('paused'), (string) getenv('LOTRIK_RUN'), $boot->practice);
        $operations = new Operations(
            $boot->system, $practice, $tickets, $boot->clock, $journal, $backlog = new HistoryBacklog($journal, $boot->system),
        );
        $stream = new StreamServer(
            $loop, $tickets, $boot->system->desk->state->sequence,
            array_map(static fn(string $n): string => "$n:$streamPort", $names),
            array_map(static fn(string $n): string => "http://$n:$port", $names),
        );
        $publisher = new Publisher($boot->system, $operations, $stream, $boot->feeds, bin2hex(random_bytes(6)));
        $stream->publishWith($publisher);
        $engine = new Engine(
            $boot->system, $journal, $boot->checkpoints, $boot->deskCheckpoint, $backlog, $boot->clock, $practice, $operations, $publisher,
            $loop, $build,
        );
        $rpc = new RpcServer($loop, $engine, $build);

        @unlink($socket);
        $mask = umask(0o177);
        $unix = new LimitingServer(new UnixServer('unix://'.$socket, $loop, ['backlog' => 511]), self::MAX_CALLERS, true);
        umask($mask);
        $unix->on('connection', $rpc->connected(...));
        $tcp = new LimitingServer(new TcpServer("$host:$streamPort", $loop, ['backlog' => 511]), self::MAX_CONNECTIONS);
        $tcp->on('error', static fn() => null);
        $tcp->on('connection', $stream->connected(...));

        $at = static fn(): int => $boot->clock->at($boot->system->steps());
        $loop->addPeriodicTimer(0.01, $engine->tick(...));
        foreach ([
            [0.05, 'market', static fn() => $publisher->market()], [0.1, 'marks', static fn() => $publisher->marks($at())],
            [0.25, 'depth', static fn() => $publisher->depth()], [1, 'days', static fn() => $publisher->days()],
        ] as [$seconds, $what, $draw]) {
            $loop->addPeriodicTimer($seconds, self::orLogged("what is drawn of $what", $draw));
        }
        $loop->addPeriodicTimer(0.5, static fn() => $publisher->heartbeat($at()));
        $loop->addPeriodicTimer(5, $garbage->runIfGrown(...));
        foreach ([SIGTERM, SIGINT] as $signal) {
            $loop->addSignal($signal, static fn() => $loop->stop());
        }
        $this->line('engine up');
        $loop->run();
        $engine->turn();
        @unlink($socket);
    }

    /** PHP ends a process that runs out of memory without asking anybody: some is kept back, so that the reason can be said. */
    private static function tellOfNoMemory(ExitMessageFile $words, string $data): void
    {
        $reserve = str_repeat(' ', self::RESERVE);
        register_shutdown_function(static function () use ($words, $data, &$reserve): void {
            $reserve = null;
            $line = ExitMessage::ofNoMemory(error_get_last(), $data);
            if ($line !== null) {
                $words->say($line);
                @fwrite(STDERR, "$line\n");
            }
        });
    }

    /**
     * What is only looked at ends nothing that trades. A fault that comes again and again is told once.
     *
     * @param callable(): void $draw
     *
     * @return callable(): void
     */
    private static function orLogged(string $what, callable $draw): callable
    {
        $told = '';

        return static function () use ($what, $draw, &$told): void {
            try {
                $draw();
            } catch (\Throwable $fault) {
                if ($told !== $fault->getMessage()) {
                    $told = $fault->getMessage();
                    ReadFault::log($what, $fault);
                }
            }
        };
    }

    /** @return int|false|null ms since 1970 UTC */
    private function clock(): int|false|null
    {
        $text = $this->option('clock');
        if (! is_string($text) || $text === '') {
            return null;
        }
        if (! preg_match('/^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d{1,3})?)?(Z|[+-]\d\d:\d\d)$/', $text)) {
            return false;
        }
        try {
            return (int) (new \DateTimeImmutable($text))->format('Uv');
        } catch (\Exception) {
            return false;
        }
    }

    private function refuse(string $line): int
    {
        fwrite(STDERR, $line."\n");

        return 2;
    }
}
