<?php

declare(strict_types=1);

namespace Lotrik\Risk\Limits;

/** The day of each account that was found last: it is asked for at each print of each contract, and mostly is the same. */
final class FoundDays
{
    /** @var \WeakMap<AccountDay, array{array{int, int}, int}>|null the day, and until when it holds */
    private static ?\WeakMap $found = null;

    /**
     * @param int $at ms since 1970 UTC
     *
     * @return array{int, int}|null
     */
    public static function of(AccountDay $day, int $at): ?array
    {
        [$found, $until] = self::$found[$day] ?? [[0, 0], 0];

        return $at >= $found[0] && $at < $until ? $found : null;
    }

    /**
     * @param array{int, int} $found
     * @param int|null        $until when something else comes into force, in the middle of it
     *
     * @return array{int, int} the same
     */
    public static function keep(AccountDay $day, array $found, ?int $until): array
    {
        self::$found ??= new \WeakMap();
        self::$found[$day] = [$found, min($found[1], $until ?? $found[1])];

        return $found;
    }
}
