<?php

declare(strict_types=1);

namespace App\Engine\View;

/** ISO 8601 in UTC with milliseconds. */
final class Time
{
    /** @param int $at ms since 1970 UTC */
    public static function iso(int $at): string
    {
        return gmdate('Y-m-d\TH:i:s', intdiv($at, 1000)).sprintf('.%03dZ', $at % 1000);
    }
}
