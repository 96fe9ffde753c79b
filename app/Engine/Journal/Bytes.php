<?php

declare(strict_types=1);

namespace App\Engine\Journal;

/** Bytes for a column: the query builder binds streams, and nothing else, as what they are rather than as text. */
final class Bytes
{
    /** @return resource */
    public static function of(string $bytes)
    {
        $stream = fopen('php://memory', 'r+') ?: throw new \RuntimeException('php://memory: found no memory, expected some');
        fwrite($stream, $bytes);
        rewind($stream);

        return $stream;
    }
}
