<?php

declare(strict_types=1);

namespace Lotrik\Document;

/**
 * Finds a key that stands twice in one object of a JSON text: PHP's reader would take the last one and say nothing.
 * Source: RFC 8259, section 4 (names within an object should be unique).
 */
final class DoubledKey
{
    /**
     * @param string $json a text that is valid JSON
     *
     * @return array{string, string}|null pointer of the object and the key; null where there is none
     */
    public static function in(string $json): ?array
    {
        preg_match_all('/"(?:[^"\\\\]|\\\\.)*+"|[{}\[\],:]/s', $json, $found);
        /** @var list<array<string, true>|null> $keys of each object that is open; null for a list */
        $keys = [];
        /** @var list<int|string> $at key or place that each of them is at */
        $at = [];
        foreach ($found[0] as $i => $token) {
            $depth = count($keys) - 1;
            if ($token === '{' || $token === '[') {
                $keys[] = $token === '{' ? [] : null;
                $at[] = 0;
            } elseif ($token === '}' || $token === ']') {
                array_pop($keys);
                array_pop($at);
            } elseif ($token === ',' && $keys[$depth] === null) {
                $at[$depth] = (int) $at[$depth] + 1;
            } elseif ($token[0] === '"' && ($found[0][$i + 1] ?? '') === ':') {
                $key = json_decode($token);
                $key = is_string($key) ? $key : '';
                if (isset($keys[$depth][" $key"])) {
                    return [self::pointer(array_slice($at, 0, -1)), $key];
                }
                $keys[$depth][" $key"] = true;
                $at[$depth] = $key;
            }
        }

        return null;
    }

    /** @param list<int|string> $path */
    private static function pointer(array $path): string
    {
        return implode(
            '',
            array_map(static fn(int|string $step): string => '/'.str_replace(['~', '/'], ['~0', '~1'], (string) $step), $path),
        );
    }
}
