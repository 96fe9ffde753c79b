<?php

declare(strict_types=1);

namespace Lotrik\Tools;

/** One process that bin/start keeps running: in a group of its own, started again when it dies, given up after 5 times in 60 s. */
final class SupervisedProcess
{
    private const MAX_RESTARTS = 5;

    private const WITHIN_SECONDS = 60;

    /** For all its children to be there; loading classes ahead takes a slow machine several. */
    private const SECONDS_TO_COME = 30;

    /** @var resource|null */
    private $process;

    private int $pid = 0;

    private ?int $status = null;

    /** @var list<float> */
    private array $starts = [];

    /** Whether it has had all its children in this life: one that still comes up is not dead, however slow the machine. */
    private bool $wasWhole = false;

    /**
     * @param list<string>          $command
     * @param array<string, string> $environment
     * @param int                   $children    processes of its own that it must have; fewer counts as dead
     */
    public function __construct(
        public readonly string $name,
        private readonly array $command,
        private readonly string $folder,
        private readonly array $environment,
        private readonly string $log,
        private readonly int $children = 0,
    ) {}

    public function start(): void
    {
        $this->starts[] = microtime(true);
        $this->status = null;
        $this->wasWhole = false;
        $out = ['file', $this->log, 'a'];
        $process = proc_open(
            ['setsid', ...$this->command],
            [['file', '/dev/null', 'r'], $out, $out],
            $pipes,
            $this->folder,
            $this->environment + getenv(),
        );
        if ($process === false) {
            throw new \RuntimeException("$this->name could not be started");
        }
        $this->process = $process;
        $this->pid = proc_get_status($process)['pid'];
    }

    public function isAlive(): bool
    {
        $this->status();

        return $this->process !== null && proc_get_status($this->process)['running'];
    }

    /** The status that it ended with; null while it runs. */
    public function status(): ?int
    {
        if ($this->process === null) {
            return null;
        }
        $status = proc_get_status($this->process);
        // PHP tells it once.
        $this->status ??= $status['running'] || $status['signaled'] ? null : $status['exitcode'];

        return $this->status;
    }

    /** Alive, and without having lost a worker. */
    public function isWhole(): bool
    {
        if (! $this->isAlive()) {
            return false;
        }
        $children = @file_get_contents("/proc/{$this->pid}/task/{$this->pid}/children");
        if ($this->children === 0 || $children === false) {
            return true;
        }

        // The parent does not reap its workers: a dead one stays as a zombie and does not count.
        $alive = array_filter(
            explode(' ', trim($children)),
            static fn(string $pid): bool => $pid !== '' && preg_match('/\) Z /', (string) @file_get_contents("/proc/$pid/stat")) === 0,
        );

        $isWhole = count($alive) >= $this->children;
        $this->wasWhole = $this->wasWhole || $isWhole;

        return $isWhole || (! $this->wasWhole && microtime(true) - end($this->starts) < self::SECONDS_TO_COME);
    }

    /**
     * What it ended with: a fault that it wrote in this life, or else the last line of its log.
     *
     * @param string $file where it writes a fault
     */
    public function lastWords(string $file): string
    {
        clearstatcache();
        $isOfThisLife = is_file($file) && filemtime($file) >= (int) end($this->starts);
        $words = $isOfThisLife ? trim((string) file_get_contents($file)) : '';

        return $words !== '' ? $words : trim((string) shell_exec('tail -n 1 '.escapeshellarg($this->log)));
    }

    public function mayRestart(): bool
    {
        $since = microtime(true) - self::WITHIN_SECONDS;

        return count(array_filter($this->starts, static fn(float $at): bool => $at > $since)) <= self::MAX_RESTARTS;
    }

    public function stop(): void
    {
        if ($this->process === null) {
            return;
        }
        posix_kill(-$this->pid, SIGTERM);
        for ($i = 0; $i < 200 && $this->isAlive(); $i++) {
            usleep(10_000);
        }
        posix_kill(-$this->pid, SIGKILL);
        proc_close($this->process);
        $this->process = null;
    }
}
