<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** How many levels of a contract's book. */
final class BookRequest extends ApiRequest
{
    private const LEVELS = 20;

    private const MAX_LEVELS = 1_000;

    public function levels(): int
    {
        return $this->whole('levels', self::LEVELS, 1, self::MAX_LEVELS);
    }
}
