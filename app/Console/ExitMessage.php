<?php

declare(strict_types=1);

namespace App\Console;

use App\Engine\Journal\JournalDamaged;

/** What ended a process, in one line: where, what was found, what was expected, what can be done. */
final class ExitMessage
{
    private const LITTLE_ROOM = 1_048_576;

    private const FULL = 13;

    private const READ_ONLY = 8;

    private const CANNOT_OPEN = 14;

    private const DISK_FAULT = 10;

    private const CORRUPT = 11;

    private const NO_DATABASE = 26;

    private const BUSY = 5;

    /** @param string $data directory that the process worked on */
    public static function of(\Throwable $fault, string $data): string
    {
        $pdo = self::pdo($fault);
        $line = match (true) {
            $fault instanceof JournalDamaged => $fault->getMessage(),
            $pdo !== null => self::ofSqlite(
                $pdo,
                preg_match('~Database: ([^,]+),~', $fault->getMessage(), $found) === 1 ? $found[1] : "$data/journal.sqlite",
            ),
            default => 'Lotrik itself: found '.$fault::class.' ('.$fault->getMessage().') in '.basename($fault->getFile()).':'
                .$fault->getLine().", expected none; what led to it is in $data/logs",
        };

        return trim((string) preg_replace('/\s+/', ' ', $line));
    }

    /**
     * @param array{type: int, message: string, file: string, line: int}|null $last as error_get_last() gives it
     *
     * @return string|null null where memory was not what it ended for
     */
    public static function ofNoMemory(?array $last, string $data): ?string
    {
        if ($last === null || preg_match('/^Allowed memory size of (\d+) bytes exhausted/', $last['message'], $found) !== 1) {
            return null;
        }

        return 'Lotrik itself: found its memory of '.intdiv((int) $found[1], 1_048_576).' MB used up in '.basename($last['file'])
            .":{$last['line']}, expected less; nothing that was acknowledged is lost. What led to it is in $data/logs";
    }

    /** Whether it may be gone in a moment: another process held the database. */
    public static function mayPass(\Throwable $fault): bool
    {
        return (self::pdo($fault)?->errorInfo[1] ?? 0) === self::BUSY;
    }

    private static function pdo(\Throwable $fault): ?\PDOException
    {
        return $fault instanceof \PDOException ? $fault : null;
    }

    /** Source of the codes: SQLite, "Result and Error Codes". */
    private static function ofSqlite(\PDOException $fault, string $file): string
    {
        $code = $fault->errorInfo[1] ?? $fault->getCode();
        // The shared memory beside a database needs room too, and says so in other words.
        if ($code === self::DISK_FAULT && (int) @disk_free_space(dirname($file)) < self::LITTLE_ROOM) {
            $code = self::FULL;
        }

        return match ($code) {
            self::FULL => "$file: found no room to write, expected some; free space on its disk and start again",
            self::READ_ONLY,
            self::CANNOT_OPEN => "$file: found a file or directory that cannot be written, expected one that can; look at its owner, its "
                .'permissions and its disk, and start again',
            self::DISK_FAULT => "$file: found a disk that fails to read or write, expected one that does; copy the data directory to "
                .'another disk and start there with --data',
            self::CORRUPT,
            self::NO_DATABASE => "$file: found a damaged database, expected the one that was written; put the data directory back from a "
                .'copy, or start with --fresh, which gives up all that it holds',
            self::BUSY => "$file: found it locked by another process, expected it free; end that process and start again",
            default => "$file: found a database fault ({$fault->getMessage()}), expected none; what led to it is in the logs beside it",
        };
    }
}
