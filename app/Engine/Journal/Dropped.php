<?php

declare(strict_types=1);

namespace App\Engine\Journal;

/**
 * What only watches, or can be made anew, and cannot be read at a start: it is left out, and one line in the log says so. Nothing of
 * it may keep a directory from starting, since what trades is in the journal.
 */
final class Dropped
{
    /** @param string $what such as "the bars of DULZ6" */
    public static function say(string $what, \Throwable $fault): void
    {
        @fwrite(STDERR, "$what could not be read and was left out: ".trim((string) preg_replace('/\s+/', ' ', $fault->getMessage()))."\n");
    }

    /**
     * Does it, or says that it was left out.
     *
     * @param callable(): void $restore
     */
    public static function unless(string $what, callable $restore): void
    {
        try {
            $restore();
        } catch (\PDOException $fault) {
            // The database itself: nothing else of it can be relied on.
            throw $fault;
        } catch (\Throwable $fault) {
            self::say($what, $fault);
        }
    }
}
