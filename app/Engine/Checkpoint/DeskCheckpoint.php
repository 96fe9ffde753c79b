<?php

declare(strict_types=1);

namespace App\Engine\Checkpoint;

use App\Engine\Journal\Dropped;
use Lotrik\Desk\DeskState;

/**
 * The desk's whole state in a file beside the journal: it only saves reading all of the journal, and is used only by the
 * build that wrote it. A child process writes it, so that no order waits for it; a file that was cut short is not used.
 */
final class DeskCheckpoint
{
    /** Events after which the desk is saved again; at most so many are applied at a start. */
    private const EVERY = 2_000;

    private const PIECE = 262_144;

    /** The child works when nobody else wants to (nice(2)). */
    private const LOWEST_PRIORITY = 19;

    private int $writer = 0;

    /** @param int $savedAt sequence of the state that the file holds, or that was read from the journal */
    public function __construct(private readonly string $path, private readonly string $build, private int $savedAt) {}

    public function isDue(int $sequence): bool
    {
        return $sequence - $this->savedAt >= self::EVERY && ! $this->isBeingWritten();
    }

    /** @param string $hash of the journal row at the state's sequence */
    public function saveInChild(DeskState $state, string $hash): void
    {
        $this->savedAt = $state->sequence;
        $child = pcntl_fork();
        if ($child === 0) {
            // The child has the engine's sockets and database, too: it does nothing but this, and ends without any clean-up.
            try {
                // While it held them, the streams of an engine that was killed stayed open, and no page heard that it was gone.
                array_map(fclose(...), array_filter(get_resources('stream'), static fn($stream): bool => $stream !== STDERR));
                pcntl_setpriority(self::LOWEST_PRIORITY);
                $this->save($state, $hash);
            } finally {
                posix_kill(posix_getpid(), SIGKILL);
            }
        }
        $this->writer = max(0, $child);
    }

    public function save(DeskState $state, string $hash): void
    {
        $this->savedAt = $state->sequence;
        $body = serialize($state);
        $head = json_encode(
            ['build' => $this->build, 'sequence' => $state->sequence, 'hash' => $hash, 'sha256' => hash('sha256', $body)],
            JSON_THROW_ON_ERROR,
        );
        $file = fopen("{$this->path}.new", 'w') ?: throw new \RuntimeException("{$this->path}.new: found a file that cannot be written, "
            .'expected one that can');
        // In pieces: the journal's own writes would wait for all of it on the disk.
        foreach (str_split("$head\n$body", self::PIECE) as $piece) {
            if (fwrite($file, $piece) !== strlen($piece) || ! fflush($file) || ! fdatasync($file)) {
                throw new \RuntimeException("{$this->path}.new: found a disk that takes no more, expected the whole checkpoint written");
            }
        }
        fclose($file);
        rename("{$this->path}.new", $this->path);
    }

    /** @return array{DeskState, string}|null the state and the hash of the journal row that it is of; null where none can be used */
    public static function read(string $path, string $build): ?array
    {
        $text = is_file($path) ? (string) file_get_contents($path) : '';
        [$head, $body] = explode("\n", $text, 2) + ['', ''];
        $head = json_decode($head, true);
        if (
            ! is_array($head)
            || ($head['build'] ?? null) !== $build
            || ($head['sha256'] ?? null) !== hash('sha256', $body)
            || ! is_string($head['hash'] ?? null)
        ) {
            return null;
        }
        try {
            $state = unserialize($body);
        } catch (\Throwable $fault) {
            // The journal has all that is in it.
            Dropped::say('the checkpoint of the desk', $fault);

            return null;
        }

        return $state instanceof DeskState && $state->sequence === ($head['sequence'] ?? null) ? [$state, $head['hash']] : null;
    }

    private function isBeingWritten(): bool
    {
        if ($this->writer > 0 && pcntl_waitpid($this->writer, $status, WNOHANG) !== 0) {
            $this->writer = 0;
        }

        return $this->writer > 0;
    }
}
