<?php

declare(strict_types=1);

namespace Tests\Support;

/**
 * The real application, started with bin/start on free ports and a data directory of its own: once a suite with the
 * market paused, so that tests decide what happens.
 */
final class RunningDesk
{
    public const CLOCK = '2026-11-02T09:30:00Z';

    private static ?self $shared = null;

    /** @var resource */
    private $process;

    public string $entryLink = '';

    /** @var list<Trader> made and not yet given to a test */
    private array $traders = [];

    private function __construct(
        public readonly string $data,
        public readonly int $port,
        public readonly int $streamPort,
        private readonly bool $openPractice = true,
    ) {}

    public static function shared(): self
    {
        if (self::$shared === null) {
            self::$shared = self::start('--seed', '1', '--paused', '--clock', self::CLOCK);
            register_shutdown_function(static fn() => self::$shared?->stop());
        }

        return self::$shared;
    }

    public static function start(string ...$options): self
    {
        $data = sys_get_temp_dir().'/lotrik-'.bin2hex(random_bytes(4));
        $desk = new self($data, self::freePort(), self::freePort());
        $desk->up(...$options);

        return $desk;
    }

    /** As everybody starts it: only the first user steers the practice market. */
    public static function startAsUsual(string ...$options): self
    {
        $desk = new self(sys_get_temp_dir().'/lotrik-'.bin2hex(random_bytes(4)), self::freePort(), self::freePort(), false);
        $desk->up(...$options);

        return $desk;
    }

    /** Starts it (again) on the same data, and waits for its `ready` line. */
    public function up(string ...$options): void
    {
        $command = [
            dirname(__DIR__, 2).'/bin/start', '--no-setup', '--data', $this->data, '--port', (string) $this->port, '--stream-port',
            (string) $this->streamPort, ...($this->openPractice ? ['--open-practice'] : []), ...$options,
        ];
        $process = proc_open(
            $command,
            [['file', '/dev/null', 'r'], ['pipe', 'w'], ['file', $this->data.'.log', 'a']],
            $pipes,
            null,
            ['LOTRIK_KILL_FILE' => $this->killFile()] + getenv(),
        );
        if ($process === false) {
            throw new \RuntimeException('bin/start could not be run');
        }
        $this->process = $process;
        $line = fgets($pipes[1]);
        if (! is_string($line) || ! preg_match('/^ready (\S+)$/', trim($line), $found)) {
            throw new \RuntimeException('bin/start did not get ready: '.file_get_contents($this->data.'.log'));
        }
        $this->entryLink = $found[1];
    }

    /** Ends it in good order; its data stay. */
    public function down(): void
    {
        proc_terminate($this->process, SIGTERM);
        Wait::until(fn(): bool => ! proc_get_status($this->process)['running'], 'bin/start to end', 15);
    }

    /** A power cut: everything is killed at once, nobody cleans up. */
    public function crash(): void
    {
        proc_terminate($this->process, SIGKILL);
        // What was only just being started is not in the first list.
        Wait::until(function (): bool {
            $left = array_filter([$this->enginePid(), ...$this->webWorkers()]);
            array_map(static fn(int $pid): bool => posix_kill($pid, SIGKILL), $left);

            return $left === [] && ! proc_get_status($this->process)['running'];
        }, 'everything to be gone', 15);
    }

    /** @return array{int, string} status and what was said, of a start that gives up */
    public function failsToStart(string ...$options): array
    {
        $command = [
            dirname(__DIR__, 2).'/bin/start', '--no-setup', '--data', $this->data, '--port', (string) $this->port, '--stream-port',
            (string) $this->streamPort, ...$options,
        ];
        $process = proc_open($command, [['file', '/dev/null', 'r'], ['file', '/dev/null', 'w'], ['pipe', 'w']], $pipes);
        assert($process !== false);
        $said = (string) stream_get_contents($pipes[2]);

        return [proc_close($process), $said];
    }

    public function stop(): void
    {
        if (proc_get_status($this->process)['running']) {
            $this->down();
        }
        exec('rm -rf '.escapeshellarg($this->data).' '.escapeshellarg($this->data.'.log'));
    }

    public function url(string $path = ''): string
    {
        return "http://127.0.0.1:{$this->port}$path";
    }

    /** Process ids of the web's workers. @return list<int> */
    public function webWorkers(): array
    {
        $pids = [];
        foreach (glob('/proc/[0-9]*/cmdline') ?: [] as $file) {
            if (str_contains((string) @file_get_contents($file), "-S\0"."127.0.0.1:{$this->port}\0")) {
                $pids[] = (int) basename(dirname($file));
            }
        }

        return $pids;
    }

    public function enginePid(): int
    {
        foreach (glob('/proc/[0-9]*/cmdline') ?: [] as $file) {
            $words = explode("\0", (string) @file_get_contents($file));
            if (in_array('lotrik:engine', $words, true)) {
                $pid = (int) basename(dirname($file));
                if (str_contains((string) @file_get_contents("/proc/$pid/environ"), "LOTRIK_DATA={$this->data}\0")) {
                    return $pid;
                }
            }
        }

        return 0;
    }

    /** Kills the engine as hard as a power cut would; bin/start brings it back. */
    public function killEngine(): void
    {
        $pid = $this->enginePid();
        posix_kill($pid, SIGKILL);
        $this->awaitEngineOtherThan($pid);
    }

    /** The engine will kill itself when it next reaches this point. */
    public function armKill(string $point): void
    {
        file_put_contents($this->killFile(), $point);
    }

    public function isArmed(): bool
    {
        clearstatcache();

        return is_file($this->killFile());
    }

    public function awaitEngineOtherThan(int $pid): void
    {
        Wait::until(
            fn(): bool => ! in_array(
                $this->enginePid(),
                [0, $pid],
                true,
            ) && @stream_socket_client("unix://{$this->data}/engine.sock") !== false,
            'the engine to be back',
            15,
        );
    }

    /** A user whose account is not barred before it has lost so much in a day. */
    public function traderWhoMayLose(string $limit): Trader
    {
        return $this->make(1, '--loss-limit='.$limit)[0];
    }

    /** A user with an account of its own. Those of the shared desk are made by the dozen: starting the command takes longest. */
    public function trader(): Trader
    {
        if ($this->traders === []) {
            $this->traders = $this->make($this === self::$shared ? 12 : 1);
        }

        return array_shift($this->traders);
    }

    /** @return non-empty-list<Trader> */
    private function make(int $count, string $option = ''): array
    {
        exec(
            escapeshellarg(PHP_BINARY).' '.escapeshellarg(dirname(__DIR__, 2).'/artisan')." lotrik:account --count=$count --data="
                .escapeshellarg($this->data).' '.($option === '' ? '' : escapeshellarg($option)).' 2>&1',
            $lines,
            $status,
        );
        if ($status !== 0 || $lines === [] || count($lines) !== $count) {
            throw new \RuntimeException('no account: '.implode("\n", $lines));
        }

        return array_map(function (string $line): Trader {
            $made = (array) json_decode($line, true, 512, JSON_THROW_ON_ERROR);

            return new Trader($this, $made['account'], $made['token'], $this->url($made['link']), $made['email'], $made['password']);
        }, $lines);
    }

    private function killFile(): string
    {
        return $this->data.'.kill';
    }

    /** Below the ports that the system lends to connections: one of those could take it before bin/start does. */
    private static function freePort(): int
    {
        do {
            $port = random_int(10_000, 32_000);
            $socket = @stream_socket_server("tcp://127.0.0.1:$port");
        } while ($socket === false);
        fclose($socket);

        return $port;
    }
}
