<?php

declare(strict_types=1);

namespace Lotrik\Watching\Depth;

/** Where much of what rests in the book has changed within a second: by as many lots as the middle price holds, and by two at least. */
final class DepthChange
{
    private const WITHIN_MS = 1_000;

    private const LEAST_LOTS = 2;

    private const MIDDLE_PERCENT = 50;

    /** @return list<array{int, int}> tick, and by how many lots */
    public static function of(DepthHistory $depth): array
    {
        $now = $depth->last()?->levels() ?? [];
        $then = $depth->before(self::WITHIN_MS)?->levels() ?? [];
        $much = max(self::LEAST_LOTS, $depth->typical->percentile(self::MIDDLE_PERCENT));
        $changed = [];
        foreach ($now + $then as $tick => $_) {
            $by = ($now[$tick] ?? 0) - ($then[$tick] ?? 0);
            if (abs($by) >= $much) {
                $changed[] = [$tick, $by];
            }
        }

        return $changed;
    }
}
