<?php

declare(strict_types=1);

namespace Lotrik\Watching\Bars;

/** How long a bar by time is. Bars begin at whole multiples of it, counted in UTC. */
enum BarSize: string
{
    case OneMinute = '1m';
    case TwoMinutes = '2m';
    case ThreeMinutes = '3m';
    case FiveMinutes = '5m';
    case TenMinutes = '10m';
    case QuarterHour = '15m';
    case HalfHour = '30m';
    case OneHour = '1h';

    public function ms(): int
    {
        return 60_000 * match ($this) {
            self::OneHour => 60,
            default => (int) $this->value,
        };
    }

    public static function ofMinutes(int $minutes): ?self
    {
        foreach (self::cases() as $size) {
            if ($size->ms() === 60_000 * $minutes) {
                return $size;
            }
        }

        return null;
    }
}
