<?php

declare(strict_types=1);

namespace App\Console;

/** The line that a process ends with, in a file whose room is taken beforehand: it can be said on a full disk too. bin/start shows it. */
final class ExitMessageFile
{
    private const MAX_BYTES = 2_000;

    /** @var resource|null null where there was no room even for that */
    private $file = null;

    public function __construct(string $path)
    {
        $file = @fopen($path, 'c');
        if ($file !== false && @fwrite($file, str_repeat(' ', self::MAX_BYTES)) === self::MAX_BYTES && @fflush($file)) {
            $this->file = $file;
        }
    }

    public function say(string $line): void
    {
        if ($this->file !== null) {
            rewind($this->file);
            fwrite($this->file, str_pad(substr($line, 0, self::MAX_BYTES), self::MAX_BYTES));
            fflush($this->file);
        }
    }
}
