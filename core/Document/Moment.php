<?php

declare(strict_types=1);

namespace Lotrik\Document;

/** ISO 8601 times as whole microseconds since 1970 UTC, and back with milliseconds. */
final class Moment
{
    public static function parse(string $text): ?int
    {
        if (! preg_match('/^(\d{4}-\d\d-\d\d)T(\d\d:\d\d(?::\d\d)?)(?:\.(\d{1,6})\d*)?(Z|[+-]\d\d:?\d\d)$/', $text, $part)) {
            return null;
        }
        $time = strlen($part[2]) === 5 ? $part[2].':00' : $part[2];
        $moment = \DateTimeImmutable::createFromFormat('!Y-m-d\TH:i:sP', "{$part[1]}T$time{$part[4]}");
        if ($moment === false || $moment->format('Y-m-d\TH:i:s') !== "{$part[1]}T$time") {
            return null;
        }

        return $moment->getTimestamp() * 1_000_000 + (int) str_pad($part[3], 6, '0');
    }

    public static function iso(int $moment): string
    {
        $ms = intdiv($moment - ($moment % 1000), 1000);
        $seconds = intdiv($ms - (($ms % 1000) + 1000) % 1000, 1000);

        return gmdate('Y-m-d\TH:i:s', $seconds).sprintf('.%03dZ', $ms - $seconds * 1000);
    }
}
