<?php

declare(strict_types=1);

namespace App\Engine\Journal;

/**
 * The highest sequence that was acknowledged, with its hash, in a file beside the journal: what was said to be safe must
 * be there at the next start. It is written after each commit and before its answers, without waiting for the disk: a
 * power cut may leave an older one, never one that promises too much.
 */
final class Head
{
    /** @var resource|null */
    private $file;

    public function __construct(private readonly string $path) {}

    public function write(int $sequence, string $hash): void
    {
        $this->file ??= fopen($this->path, 'c') ?: throw new \RuntimeException("{$this->path}: found a file that cannot be written, "
            .'expected one that can');
        rewind($this->file);
        fwrite($this->file, sprintf("%016d %s\n", $sequence, $hash));
        fflush($this->file);
    }

    /** @return array{int, string}|null null where there is none, as in a directory of an older build */
    public function read(): ?array
    {
        $line = is_file($this->path) ? (string) file_get_contents($this->path) : '';

        return preg_match('/^(\d{16}) ([0-9a-f]{64})\n/', $line, $found) ? [(int) $found[1], $found[2]] : null;
    }
}
