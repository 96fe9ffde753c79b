<?php

declare(strict_types=1);

namespace Tests\Support;

/** Makes a failing list shorter for as long as it still fails: leaves out halves, quarters … single actions. */
final class Shrinker
{
    /**
     * @template T
     *
     * @param list<T>                 $actions that fail
     * @param callable(list<T>): bool $fails
     *
     * @return list<T> none of which can be left out
     */
    public static function shrink(array $actions, callable $fails): array
    {
        for ($chunk = intdiv(count($actions), 2); $chunk >= 1; $chunk = $without ? min($chunk, count($actions)) : intdiv($chunk, 2)) {
            $without = false;
            for ($i = 0; $i < count($actions); $i += $chunk) {
                $fewer = $actions;
                array_splice($fewer, $i, $chunk);
                if ($fails($fewer)) {
                    $actions = $fewer;
                    $without = true;
                    $i -= $chunk;
                }
            }
        }

        return $actions;
    }
}
