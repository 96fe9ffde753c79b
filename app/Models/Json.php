<?php

declare(strict_types=1);

namespace App\Models;

/** JSON as it stands in a column of the engine's tables. */
final class Json
{
    public static function of(mixed $value): string
    {
        return json_encode($value, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }
}
